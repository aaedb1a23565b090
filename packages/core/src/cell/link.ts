import { z } from 'zod';
import { protocolOf, protocols } from '../protocols/list.js';

type Protocols = (typeof protocols)[number];
type LinkSchema = Protocols['link'];
type OfferSchema = Protocols['offer'];

/** A union of the schemas of all protocols, told apart by the protocol's id. */
const unionOf = <S extends z.ZodType>(schemas: readonly S[]) =>
  z.discriminatedUnion('protocol', schemas as never) as unknown as z.ZodType<z.output<S>, z.input<S>>;

/** How one device is reached, over any protocol. */
export const Link = unionOf<LinkSchema>(protocols.map((p) => p.link));
export type Link = z.output<LinkSchema>;

/** What a device offers over its protocol, beside its points. */
export const Offer = unionOf<OfferSchema>(protocols.map((p) => p.offer));
export type Offer = z.output<OfferSchema>;

/** What changes of a link when it is to have this update time, µs. */
export const withUpdate = (link: Link, us: number): LinkSet =>
  protocolOf(link).withUpdate(link, us) as LinkSet;

/**
 * Entries that a link of one protocol can have changed; its images have edits of their own, another protocol has
 * link.protocol.
 */
export type LinkSet = Link extends infer L
  ? L extends Link
    ? Partial<Omit<L, 'id' | 'protocol' | 'command' | 'feedback'>>
    : never
  : never;

/** A link of one protocol. */
export type LinkOf<P extends Link['protocol']> = Extract<Link, { protocol: P }>;

/** The link, where it is one of this protocol. */
export const linkOver = <P extends Link['protocol']>(link: Link, protocol: P): LinkOf<P> | undefined =>
  link.protocol === protocol ? (link as LinkOf<P>) : undefined;
