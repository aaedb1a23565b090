import punycode from 'punycode/';

/**
 * PROFINET station names: IEC 61784-2, GSDML and the rules of DNS names behind them (RFC 1123, 2.1; RFC 5890 for
 * letters beyond ASCII; from memory): labels of 1 to 63 letters, digits and hyphens, separated by dots, 240 characters
 * in all.
 */

export const longestStationName = 240;
const longestLabel = 63;

/** What keeps a text from being a station name, in words; undefined when nothing does. */
export function stationNameTrouble(name: string): string | undefined {
  if (name === '') return 'it is empty';
  if (name.length > longestStationName) return `it has more than ${longestStationName} characters`;
  if (/^\d{1,3}(\.\d{1,3}){3}$/.test(name)) return 'it reads as an IPv4 address';
  if (/^port-\d{3}(-\d{5})?(\.|$)/.test(name)) return 'it begins as the name of a port does';
  for (const label of name.split('.')) {
    if (label === '') return 'one of its labels is empty';
    if (label.length > longestLabel) return `one of its labels has more than ${longestLabel} characters`;
    if (/[A-Z]/.test(label)) return 'it has capital letters';
    if (!/^[a-z0-9-]+$/.test(label)) return 'it has other characters than letters, digits, hyphens and dots';
    if (label.startsWith('-') || label.endsWith('-')) return 'one of its labels begins or ends with a hyphen';
  }
  return undefined;
}

/**
 * A name as it may stand on the wire. A legal one stays; in others each letter that is not allowed is converted as RFC
 * 3492 does it (xn--), an underscore becomes a hyphen, and capital letters small ones.
 */
export function stationNameOf(name: string): string {
  const labels = name
    .normalize('NFC')
    .toLowerCase()
    .replace(/[\s_]+/g, '-')
    .split('.')
    .map((label) => label.replace(/[^\p{L}\p{N}-]+/gu, '-').replace(/^-+|-+$/g, ''))
    .filter(Boolean)
    .map((label) => {
      const ascii = /^[a-z0-9-]*$/.test(label) ? label : asciiLabel(label);
      return ascii.slice(0, longestLabel).replace(/-+$/, '');
    });
  const whole = labels
    .join('.')
    .slice(0, longestStationName)
    .replace(/[-.]+$/, '');
  return stationNameTrouble(whole) ? `n-${whole.replace(/\./g, '-')}` : whole;
}

/** The ASCII form of one label (RFC 5890, 2.3.2.1): what every resolver does with a host name. */
function asciiLabel(label: string): string {
  return `xn--${punycode.encode(label)}`;
}
