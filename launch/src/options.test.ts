import { expect, test } from 'vitest';
import { optionsFrom } from './options.js';

test.each([
  [[], { resetDemo: false, dev: false, reach: [] }],
  [['--dev'], { resetDemo: false, dev: true, reach: [] }],
  [['--reset-demo'], { resetDemo: true, dev: false, reach: [] }],
  [
    ['--reach', '192.168.40.0/24', '--wide', '--reach', '10.0.0.0/8'],
    { resetDemo: false, dev: false, reach: ['192.168.40.0/24', '10.0.0.0/8'] },
  ],
])('%j', (args, options) => expect(optionsFrom(args)).toEqual(options));

test.each([
  [['--fly'], /--fly is not known/],
  [['--reach'], /nothing is no IPv4 subnet/],
  [['--reach', '192.168.40.0'], /no IPv4 subnet/],
  [['--reach', '300.0.0.0/8'], /no IPv4 subnet/],
  [['--reach', '10.0.0.0/33'], /no IPv4 subnet/],
  [['--reach', '10.0.0.0/15'], /10.0.0.0\/15 are more than 65536 addresses/],
  [['--reach', '10.0.0.0/16', '--reach', '0.0.0.0/0'], /0.0.0.0\/0 are more/],
])('%j is refused', (args, message) => expect(() => optionsFrom(args)).toThrow(message));
