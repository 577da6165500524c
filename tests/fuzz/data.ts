/** Data for every place: known to be nasty, and made of nasty pieces. */
import { trustedURL } from 'zip-loom';
import type { Random } from '../../examples/harbour/data/random.ts';

const pieces = [
  ...'< > " \' & ` = / \\ ; : , ( ) { } [ ] # ? % @ ! - -- $ ${ } \n \r \t \f \0'.split(' '),
  ...'<script> </script> <!-- --> ]]> <svg> </p> </title> </textarea> </style> <img/src=x/onerror=1> javascript: JaVaScRiPt: java\tscript: data: vbscript: blob: file: //evil.test \\\\evil.test'.split(
    ' ',
  ),
  ...'&lt; &#60 &quot; &amp; &newline; &colon; url( expression( calc( var( /* */ !important @import ../ ./ .. . %2e %2E%2e %00 onerror onclick= style= x:y 0 1 -1'.split(
    ' ',
  ),
  ' ',
  '\u0000',
  '\u0001',
  '\u00a0',
  '\u200b',
  '\u2028',
  '\u2029',
  '\ufeff',
  '\ud800',
  '\udc00',
  '😀',
  'é',
  'K',
  'ſ',
  '\u0130',
  'a',
  'x',
  'href',
  'on',
  'data:image/png;base64,AA',
  'data:text/html,x',
  'http://',
  'mailto:',
  '\u202e',
];

const nasty = [
  `"><script>alert(1)</script>`,
  `'><img src=x onerror=alert(1)>`,
  `javascript:alert(1)`,
  ` javascript:alert(1)`,
  `\u0001javascript:alert(1)`,
  `java\nscript:alert(1)`,
  `JAVASCRIPT:alert(1)`,
  `javascript&colon;alert(1)`,
  `data:text/html,<script>alert(1)</script>`,
  `//evil.test/x`,
  `\\\\evil.test`,
  `/\\evil.test`,
  `http:evil.test`,
  `..`,
  `.`,
  `%2e%2e`,
  `../../x`,
  `</title><script>`,
  `</textarea><script>`,
  `--><script>`,
  `]]><script>`,
  `1; background: url(//evil.test)`,
  `1}body{display:none`,
  `\\3b color: red`,
  `calc(1`,
  `1)`,
  `"`,
  `\\`,
  `\u2028`,
  `</script><script>alert(1)</script>`,
  `{"__proto__":1}`,
  `&quot;onclick=alert(1)`,
  `x onclick=alert(1)`,
  `x/onclick=alert(1)`,
  `\u0000`,
  `a\ud800b`,
];

/** One value: mostly text, sometimes of another kind. */
export function nastyValue(random: Random): unknown {
  switch (random.between(0, 11)) {
    case 0:
      return random.pick(nasty);
    case 1:
      return random.pick([
        null,
        undefined,
        true,
        false,
        0,
        -0,
        Number.NaN,
        Number.POSITIVE_INFINITY,
        1e21,
        10n ** 30n,
        '',
      ]);
    case 2:
      return random.pick<unknown>([
        [nastyText(random), null, nastyText(random)],
        [[nastyText(random)], false],
        { toString: () => '<script>' },
        { html: '<b>', toJSON: () => '</script>' },
        new URL('http://harbour.test/?<>"'),
        trustedURL('fine/path'),
        () => '<script>',
        new Date(0),
        new Map(),
        Symbol('<script>'),
      ]);
    case 3:
      return random.pick(nasty) + nastyText(random);
    default:
      return nastyText(random);
  }
}

function nastyText(random: Random): string {
  return Array.from({ length: random.between(0, 7) }, () => random.pick(pieces)).join('');
}

/** A value as complaints show it. */
export function shownValue(value: unknown): string {
  return typeof value === 'string' ? JSON.stringify(value) : typeof value;
}
