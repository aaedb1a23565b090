import { uniqueIdentifiers } from '../../entries/identifiers.js';
import type { Cell } from '../../cell/model.js';
import type { Image } from '../../layout/image.js';
import {
  placesOf,
  type Condition,
  type Exchange,
  type Order,
  type Place,
  type Step,
  type Value,
  type Variable,
} from '../../cell/exchange.js';
import { nearOf, rangeIn } from '../../exchanges/images.js';
import { findPlace, whatText, type Found } from '../../exchanges/resolve.js';
import { Problem } from '../../messages/problem.js';
import { numberType } from './chain.js';
import { namesOf, type Member } from './members.js';
import { stemsOf } from './structuredText.js';
import { convert, indented, literal, negated, real } from './text.js';

/** A place as code reaches it. */
export interface PlaceCode {
  found: Found;
  member: Member;
  /** The variable, or the bit of it. */
  path: string;
}

/** The places of an exchange as structured text: read, held against a value, and written. */
export class ExchangePlaces {
  private readonly codes = new Map<string, PlaceCode>();
  readonly variables: ReadonlyMap<string, { variable: Variable; name: string }>;
  private readonly names: ReadonlyMap<Image, { own: string; type: string }>;
  readonly images: { own: string; type: string; direction: Image['direction'] }[];

  constructor(
    private readonly cell: Cell,
    private readonly exchange: Exchange,
  ) {
    const stems = stemsOf(cell);
    const founds = placesOf(exchange).map((place) => [place, this.placed(place)] as const);
    const images = [...new Map(founds.map(([, f]) => [f.image, f.link] as const))];
    this.names = new Map(
      images.map(([image, link]) => {
        const stem = stems.get(link)!;
        return [image, { own: `${stem}_${image.direction}`, type: `${stem}_${image.direction}_t` }];
      }),
    );
    this.images = images.map(([image]) => ({ ...this.names.get(image)!, direction: image.direction }));
    const taken = [...this.images.map(({ own }) => own), ...fixedNames];
    const own = uniqueIdentifiers([...taken, ...exchange.variables.map((v) => v.name)]).slice(taken.length);
    this.variables = new Map(
      exchange.variables.map((variable, i) => [variable.name, { variable, name: own[i]! }]),
    );
    for (const [place, found] of founds) this.codes.set(JSON.stringify(place), this.codeOf(found));
  }

  private placed(place: Place): Found {
    const found = findPlace(this.cell, place);
    const facts = { exchange: this.exchange.name, step: '', place: whatText(this.cell, place) };
    if (!found) throw new Problem('exchange.noPlace', facts);
    return found;
  }

  private codeOf(found: Found): PlaceCode {
    const member = namesOf(found.image).members.find((m) => m.signal.id === found.signal.id)!;
    const whole = `${this.names.get(found.image)!.own}.${member.path}`;
    return { found, member, path: found.bit === null ? whole : `${whole}.%X${found.bit}` };
  }
  code = (place: Place): PlaceCode => this.codes.get(JSON.stringify(place))!;

  /** A place as LREAL, whatever its type. */
  private asReal({ member, path }: PlaceCode): string {
    const whole = numberType({ raw: member.own });
    return convert(whole, 'LREAL', convert(member.own, whole, path));
  }
  /** A bit as it acts: TRUE where it does. */
  asBit = ({ found, path }: PlaceCode): string => {
    const bit = isWideBit(found) ? `(${path} <> ${zeroBits(found)})` : path;
    return found.signal.normallyClosed ? `NOT ${bit}` : bit;
  };

  number(value: Value): string {
    if (typeof value !== 'object') return real(Number(value));
    const name = this.variables.get(value.variable)?.name ?? '0.0';
    return value.plus === 0 ? name : `(${name} + ${real(value.plus)})`;
  }
  private bit(value: Value): string {
    if (typeof value === 'object') return this.variables.get(value.variable)?.name ?? 'FALSE';
    return value === true || (typeof value === 'number' && value !== 0) ? 'TRUE' : 'FALSE';
  }
  private text(value: Value): string {
    return typeof value === 'object'
      ? (this.variables.get(value.variable)?.name ?? "''")
      : literal(String(value));
  }

  /** A condition as an expression; `remembers`: names of what is kept of it since the step began. */
  test(condition: Condition, remembers?: { begin: string; seen: string }): string {
    const code = this.code(condition.place);
    const { is } = condition;
    if (is === 'rises' || is === 'falls') return remembers ? remembers.seen : 'FALSE';
    if (code.found.reads === 'bit') {
      const bit = this.asBit(code);
      if (is === 'changes') return remembers ? `(${bit}) <> ${remembers.begin}` : 'FALSE';
      const wanted = this.bit(condition.to);
      const same = wanted === 'TRUE' ? bit : wanted === 'FALSE' ? negated(bit) : `(${bit}) = ${wanted}`;
      return is === 'differs' ? negated(`(${same})`) : same;
    }
    if (code.found.reads === 'text') {
      if (is === 'changes') return remembers ? `${code.path} <> ${remembers.begin}` : 'FALSE';
      return `${code.path} ${is === 'differs' ? '<>' : '='} ${this.text(condition.to)}`;
    }
    return this.numberTest(condition, code, remembers?.begin);
  }

  private numberTest({ is, to, upTo }: Condition, code: PlaceCode, begin: string | undefined): string {
    const now = this.asReal(code);
    const near = nearOf(code.found.signal);
    const equal = (other: string) =>
      near === 0 ? `${now} = ${other}` : `ABS(${now} - ${other}) <= ${real(near)}`;
    // A special number is no measurement: it is neither equal nor above anything.
    const { special } = code.member;
    const measured = special ? `${this.names.get(code.found.image)!.own}.${special} = 0 AND ` : '';
    const margin = (sign: string) => (near === 0 ? '' : ` ${sign} ${real(near)}`);
    switch (is) {
      case 'changes':
        return begin === undefined ? 'FALSE' : negated(`(${equal(begin)})`);
      case 'differs':
        return `${negated(`(${measured}${equal(this.number(to))})`)}`;
      case 'above':
        return `${measured}${now} > ${this.number(to)}${margin('+')}`;
      case 'below':
        return `${measured}${now} < ${this.number(to)}${margin('-')}`;
      case 'between':
        return `${measured}${now} >= ${this.number(to)}${margin('-')} AND ${now} <= ${this.number(upTo ?? to)}${margin('+')}`;
      default:
        return `${measured}${equal(this.number(to))}`;
    }
  }

  /** The statement that puts a value to a place. */
  private put(code: PlaceCode, value: Value): string {
    const { found, member, path } = code;
    if (found.reads === 'text') return `${path} := ${this.text(value)};`;
    if (found.reads === 'bit') return this.putBit(code, this.bit(value));
    return `${path} := ${this.typed(member.own, value)};`;
  }
  private putBit({ found, path }: PlaceCode, on: string): string {
    const value = found.signal.normallyClosed
      ? on === 'TRUE'
        ? 'FALSE'
        : on === 'FALSE'
          ? 'TRUE'
          : `NOT ${on}`
      : on;
    if (!isWideBit(found)) return `${path} := ${value};`;
    return `${path} := SEL(${value}, ${zeroBits(found)}, ${oneBits(found)});`;
  }
  /** A number in the type of a variable. */
  private typed(type: string, value: Value): string {
    if (/REAL$/.test(type))
      return typeof value === 'object' ? convert('LREAL', type, this.number(value)) : real(Number(value));
    const whole = numberType({ raw: type });
    if (typeof value !== 'object')
      return whole === type
        ? String(Number(value))
        : `${type}#16#${Number(value).toString(16).toUpperCase()}`;
    return convert(whole, type, `LREAL_TO_${whole}(${this.number(value)})`);
  }

  order(order: Order): string[] {
    const code = this.code(order.place);
    if (order.how === 'toggle') return [this.putBit(code, `NOT (${this.asBit(code)})`)];
    if (order.how !== 'increment') return [this.put(code, order.to)];
    const { greatest } = rangeIn(code.found.signal);
    const whole = numberType({ raw: code.member.own });
    const next = /REAL$/.test(whole)
      ? convert('LREAL', code.member.own, `${this.asReal(code)} + 1.0`)
      : convert(whole, code.member.own, `LREAL_TO_${whole}(${this.asReal(code)} + 1.0)`);
    return [
      `IF ${this.asReal(code)} + 1.0 > ${real(greatest)} THEN`,
      ...indented([this.put(code, order.to)]),
      'ELSE',
      ...indented([`${code.path} := ${next};`]),
      'END_IF;',
    ];
  }
  takeBack(step: Step): string[] {
    return step.orders
      .filter(({ back }) => back)
      .map(({ place }) => {
        const code = this.code(place);
        return this.put(code, code.found.reads === 'text' ? '' : code.found.reads === 'bit' ? false : 0);
      });
  }

  valueNow = (code: PlaceCode): string =>
    code.found.reads === 'bit'
      ? this.asBit(code)
      : code.found.reads === 'text'
        ? code.path
        : this.asReal(code);
}

/** A single bit that is declared as a number or a bit string. */
const isWideBit = ({ signal, bit }: Found): boolean => bit === null && signal.type !== 'BOOL';
const zeroBits = ({ signal }: Found) => (signal.type === 'BITS' ? 'BYTE#16#0' : '0');
const oneBits = ({ signal }: Found) => (signal.type === 'BITS' ? 'BYTE#16#1' : '1');

/** Names that the block itself has. */
const fixedNames = [
  ...['execute', 'busy', 'done', 'error', 'failed_step', 'state', 'reason'],
  ...['in_step', 'next', 'executed'],
];
