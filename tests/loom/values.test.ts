/** Values by the place where they are. */

import { describe, expect, test } from '@jest/globals';
import { trustedHTML, trustedURL } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';
import { errors, failure, notices, problems, render } from '../support/templates.ts';

/** What a link becomes that may not be followed. */
const blockedLink = '<a href="about:blank#refused-url">x</a>';

const rows: Array<[name: string, template: string, a: unknown, output: string]> = [
  ['text', '<p>${a}</p>', `<b title="x">&'`, '<p>&lt;b title=&quot;x&quot;&gt;&amp;&#39;</p>'],
  ['nothing for null', '<p>${a}</p>', null, '<p></p>'],
  ['nothing for booleans', '<p>${a}</p>', false, '<p></p>'],
  ['numbers', '${a}', 0.5, '0.5'],
  ['bigints', '${a}', 10n ** 20n, '100000000000000000000'],
  ['a URL', '${a}', new URL('http://h/?a&b'), 'http://h/?a&amp;b'],
  ['items of an array', '${a}', ['<', null, 1, ['x']], '&lt;1x'],
  ['trusted HTML', '${a}', trustedHTML('<b>x</b>'), '<b>x</b>'],
  ['a lone surrogate', '${a}', 'a\ud800b😀', 'a\ufffdb😀'],
  ['a title', '<title>${a}</title>', '</title><script>', '<title>&lt;/title&gt;&lt;script&gt;</title>'],
  ['a textarea that begins with a line break', '<textarea>${a}</textarea>', '\nx', '<textarea>\n\nx</textarea>'],
  ['an ampersand before a value', '<p>&${a}</p>', 'lt;', '<p>&amp;lt;</p>'],
  ['a whole attribute', '<p title=${a}></p>', '"<', '<p title="&quot;&lt;"></p>'],
  ['a whole attribute in quotes', `<p title='\${a}'></p>`, "'", '<p title="&#39;"></p>'],
  ['a left-out attribute', '<p id="x" title=${a}></p>', null, '<p id="x"></p>'],
  ['a bare attribute', '<p hidden=${a}></p>', true, '<p hidden></p>'],
  ['part of an attribute', '<p title="a ${a} b"></p>', '"', '<p title="a &quot; b"></p>'],
  ['part of an unquoted attribute', '<p title=x${a}></p>', ' y', '<p title="x y"></p>'],
  [
    'trusted HTML in part of an attribute',
    '<p title="a ${a}"></p>',
    trustedHTML('"><b>'),
    '<p title="a &quot;&gt;&lt;b&gt;"></p>',
  ],
  [
    'trusted HTML as a whole attribute',
    '<p title=${a}></p>',
    trustedHTML('"><b>'),
    '<p title="&quot;&gt;&lt;b&gt;"></p>',
  ],
  ['quotes in a single-quoted attribute', `<p title='"\${a}'></p>`, 'x', '<p title="&quot;x"></p>'],
  ['aria', '<p aria-hidden=${a}></p>', false, '<p aria-hidden="false"></p>'],
  ['enumerated', '<p draggable=${a}></p>', true, '<p draggable="true"></p>'],
  ['boolean attributes go by truthiness', '<input disabled=${a}>', 0, '<input>'],
  ['boolean attributes, truthy', '<input disabled=${a}>', 'x', '<input disabled>'],
  ['tokens', '<p class=${a}></p>', ['a', false, '', null, ['b', 'c']], '<p class="a b c"></p>'],
  ['no tokens', '<p class=${a}></p>', [false], '<p></p>'],
  [
    'a token under a condition',
    '<p class=${a.yes && "x&y"}></p><p class=${a.no && "x"}></p><p class=${a.zero && "x"}></p>',
    { yes: 1, no: null, zero: 0 },
    '<p class="x&amp;y"></p><p></p><p class="0"></p>',
  ],
  [
    'tokens under conditions',
    '<p class=${["a", a.yes && "b c", a.no && "d", a.zero && "e", a.text || "f"]}></p><p class=${["a", a.yes && "b", a.no && "c", a.zero && "d"]}></p>',
    { yes: 1, no: false, zero: 0, text: '' },
    '<p class="a b c 0 f"></p><p class="a b 0"></p>',
  ],
  ['tokens in part', '<p class="x ${a}"></p>', ['a', false, 'b'], '<p class="x a b"></p>'],
  ['an address', '<a href=${a}></a>', '/x?a=1&b=2', '<a href="/x?a=1&amp;b=2"></a>'],
  ['an address with capitals', '<a href=${a}></a>', 'HTTPS://H/', '<a href="HTTPS://H/"></a>'],
  ['a blocked address', '<a href=${a}></a>', 'javascript:alert(1)', '<a href="about:blank#refused-url"></a>'],
  [
    'a disguised scheme',
    '<a href=${a}></a>',
    ' \u0001java\tscript\n:alert(1)',
    '<a href="about:blank#refused-url"></a>',
  ],
  ['data is blocked for links', '<a href=${a}></a>', 'data:text/html,x', '<a href="about:blank#refused-url"></a>'],
  ['data passes for images', '<img src=${a}>', 'data:image/png;base64,AA', '<img src="data:image/png;base64,AA">'],
  ['other data does not', '<img src=${a}>', 'data:text/html,x', '<img src="about:blank#refused-url">'],
  [
    'a scheme from two values',
    '<a href="${a[0]}:${a[1]}"></a>',
    ['javascript', 'x'],
    '<a href="about:blank#refused-url"></a>',
  ],
  [
    'two values side by side',
    '<a href="${a[0]}${a[1]}"></a>',
    ['javascript:', 'x()'],
    '<a href="about:blank#refused-url"></a>',
  ],
  [
    'a part of the document, for a drawing',
    '<svg><use href="#icon-${a}"></use></svg>',
    'a"b',
    '<svg><use href="#icon-a%22b"></use></svg>',
  ],
  [
    'a part of the document as a whole value',
    '<svg><use href=${a}></use></svg>',
    '#a"',
    '<svg><use href="#a&quot;"></use></svg>',
  ],
  [
    'a part of the document in a list',
    '<svg><use ${...{ href: a }}></use></svg>',
    '#b',
    '<svg><use href="#b"></use></svg>',
  ],
  [
    'a part of the document, for an animation',
    '<svg><set href="#${a}" attributeName="x" to="1"></set></svg>',
    'b',
    '<svg><set href="#b" attributeName="x" to="1"></set></svg>',
  ],
  ['an address of mail', '<a href="mailto:${a}">x</a>', 'a.b+c@x.test', '<a href="mailto:a.b+c@x.test">x</a>'],
  [
    'an address of mail that would add another',
    '<a href="mailto:${a}">x</a>',
    'a@x.test,b@y.test?bcc=c&d#e',
    '<a href="mailto:a@x.test%2Cb@y.test%3Fbcc%3Dc%26d%23e">x</a>',
  ],
  [
    'several addresses of mail',
    '<a href="mailto:${a}">x</a>',
    ['a@x.test', 'b c@y.test'],
    '<a href="mailto:a@x.test,b%20c@y.test">x</a>',
  ],
  [
    'headers of mail',
    '<a href="mailto:a@x.test?cc=${a}&amp;body=${a}">x</a>',
    'b@x.test\nc&d',
    '<a href="mailto:a@x.test?cc=b@x.test%0D%0Ac%26d&amp;body=b@x.test%0D%0Ac%26d">x</a>',
  ],
  ['a telephone number', '<a href="tel:${a}">x</a>', '+49 (0) 30/12-34', '<a href="tel:+49(0)3012-34">x</a>'],
  [
    'a telephone number that would be more',
    '<a href="sms:${a}">x</a>',
    '#31#1;x=1?body=y',
    '<a href="sms:%2331%231%3Bx%3D1%3Fbody%3Dy">x</a>',
  ],
  [
    'a trusted address of mail',
    '<a href="mailto:${a}">x</a>',
    trustedURL('a@x.test,b@x.test'),
    '<a href="mailto:a@x.test,b@x.test">x</a>',
  ],
  [
    'a moment',
    '<time datetime=${a}>x</time>',
    new Date('2026-06-12T14:05:00Z'),
    '<time datetime="2026-06-12T14:05:00.000Z">x</time>',
  ],
  ['a moment as text', '<time datetime=${a}>x</time>', '2026-06-12', '<time datetime="2026-06-12">x</time>'],
  [
    'a moment in a list',
    '<time ${...{ datetime: a }}>x</time>',
    new Date(0),
    '<time datetime="1970-01-01T00:00:00.000Z">x</time>',
  ],
  ['no moment', '<del datetime=${a}>x</del>', null, '<del>x</del>'],
  ['a base and a segment', '<a href="${a[0]}/x/${a[1]}"></a>', ['..', 'b/c'], '<a href="../x/b%2Fc"></a>'],
  [
    'a segment',
    '<a href="/b/${a}?q=${a}#${a}"></a>',
    'a/b?c&d#é',
    '<a href="/b/a%2Fb%3Fc%26d%23%C3%A9?q=a%2Fb%3Fc%26d%23%C3%A9#a%2Fb%3Fc%26d%23%C3%A9"></a>',
  ],
  ['a segment that climbs', '<a href="/b/${a}/c"></a>', '..', '<a href="about:blank#refused-url"></a>'],
  ['one of two segments that climbs', '<a href="/b/${a[0]}/${a[1]}">x</a>', ['..', 'x'], blockedLink],
  ['a lone surrogate in a segment', '<a href="/b/${a}"></a>', 'a\ud800b', '<a href="/b/a%EF%BF%BDb"></a>'],
  ['a segment that climbs in two halves', '<a href="/b/.${a}/c"></a>', '.', '<a href="about:blank#refused-url"></a>'],
  ['dots behind other text of a segment', '<a href="/b/x${a}/c"></a>', '..', '<a href="/b/x../c"></a>'],
  ['dots in a query', '<a href="/b?x=${a}"></a>', '..', '<a href="/b?x=.."></a>'],
  ['several segments', '<a href="/b/${urlPath(a)}"></a>', ['x', 'y z'], '<a href="/b/x/y%20z"></a>'],
  ['a trusted address', '<a href=${a}></a>', trustedURL('javascript:void 0'), '<a href="javascript:void 0"></a>'],
  [
    'image candidates',
    '<img srcset=${a}>',
    '/a.png 1x, javascript:x 2x',
    '<img srcset="/a.png 1x, about:blank#refused-url 2x">',
  ],
  [
    'an image in candidates',
    '<img srcset="${a} 1x, /b.png 2x">',
    'data:image/png;base64,A A,,',
    '<img srcset="data:image/png;base64,A%20A%2C%2C 1x, /b.png 2x">',
  ],
  ['image candidates in parts', '<img srcset="${a} 1x, /b.png 2x">', 'a b,c', '<img srcset="a%20b%2Cc 1x, /b.png 2x">'],
  ['a style', '<p style="--depth: ${a}; color: red"></p>', 4, '<p style="--depth: 4; color: red"></p>'],
  [
    'a style that would leave',
    '<p style="--depth: ${a}; color: red"></p>',
    '1; background: url(x)',
    '<p style=" color: red"></p>',
  ],
  ['a style with a call', '<p style="width: ${a}px"></p>', 'calc(1 + 2)', '<p style="width: calc(1 + 2)px"></p>'],
  ['a style that would load something', '<p style="background: ${a}"></p>', 'url(x.png)', '<p style=""></p>'],
  ['a style with an open bracket', '<p style="width: ${a}"></p>', 'calc(1', '<p style=""></p>'],
  [
    'JSON',
    '<script type="application/json">${a}</script>',
    { x: '</script>&\u2028' },
    '<script type="application/json">{"x":"\\u003c/script\\u003e\\u0026\\u2028"}</script>',
  ],
  [
    'inside a JSON string',
    '<script type="application/ld+json">{"n": "a ${a}"}</script>',
    '"\\</',
    '<script type="application/ld+json">{"n": "a \\"\\\\\\u003c/"}</script>',
  ],
  ['a script is left alone', '<script>`${a}`</script>', 1, '<script>`${a}`</script>'],
  ['a style sheet is left alone', '<style>/* ${a} */</style>', 1, '<style>/* ${a} */</style>'],
  [
    'a list of attributes',
    '<a ${...a}>x</a>',
    { href: 'javascript:x', title: '"', disabled: false, class: ['b'] },
    '<a href="about:blank#refused-url" title="&quot;" class="b">x</a>',
  ],
  [
    'classes join, the later attribute wins',
    '<a class="a" id="x" ${...a} title="t">x</a>',
    { class: 'b', id: 'y', title: 'u' },
    '<a class="a b" id="y" title="t">x</a>',
  ],
  ['an empty list of attributes', '<a ${...a}>x</a>', null, '<a>x</a>'],
  [
    'a script with a settled origin',
    '<script src="/js/${a}.js"></script>',
    '../x',
    '<script src="/js/..%2Fx.js"></script>',
  ],
  ['a second value that would say the host', '<a href="${a[0]}${a[1]}">x</a>', ['/', '/evil.test'], blockedLink],
  ['a host that only browsers can read', '<a href="https:${a}/x">x</a>', 'a b', blockedLink],
  [
    'a second value that would say the host of a path',
    '<a href="${a[0]}${a[1]}/x">x</a>',
    ['/', '/evil.test'],
    blockedLink,
  ],
  [
    'a second value that goes on with a host',
    '<a href="${a[0]}${a[1]}">x</a>',
    ['https://a.test', '.evil.test'],
    blockedLink,
  ],
  [
    'a second value that is a path',
    '<a href="${a[0]}${a[1]}">x</a>',
    ['https://a.test', '/b?c'],
    '<a href="https://a.test/b?c">x</a>',
  ],
  ['a trusted end of a host', '<a href="${a[0]}${a[1]}">x</a>', ['//a.test', trustedURL('fine/path')], blockedLink],
  [
    'a second value that is trusted',
    '<a href="${a[0]}${a[1]}">x</a>',
    ['', trustedURL('https://a.test/')],
    '<a href="https://a.test/">x</a>',
  ],
  [
    'a refresh that begins with a quote',
    '<meta http-equiv="refresh" content="5; url=${a}">',
    `'//evil.test"`,
    '<meta http-equiv="refresh" content="5; url=%27//evil.test%22">',
  ],
  [
    'a refresh to another site',
    '<meta http-equiv="refresh" content="5; url=${a}">',
    'https://evil.test/',
    '<meta http-equiv="refresh" content="5; url=about:blank#refused-url">',
  ],
  [
    'a refresh to this site, in quotes',
    `<meta http-equiv="refresh" content="5; url='/x/\${a}'">`,
    'y/z',
    '<meta http-equiv="refresh" content="5; url=/x/y%2Fz">',
  ],
  [
    'a refresh',
    '<meta http-equiv="refresh" content="5; url=${a}">',
    'javascript:x',
    '<meta http-equiv="refresh" content="5; url=about:blank#refused-url">',
  ],
];

describe('values by place', () => {
  test.each(rows)('%s', async (_name, template, a, output) => {
    const logger = quietLogger;
    expect(await render(`<meta (takes a)>${template}`, { a }, {}, { logger })).toBe(output);
  });

  test.each([
    ['refused-url', '<a href=${a}></a>', 'x:y'],
    ['refused-style', '<p style="width: ${a}"></p>', '1}'],
  ])('%s is logged', async (code, template, a) => {
    expect(await notices(`<meta (takes a)>${template}`, { a })).toEqual([code]);
  });

  test.each<[string, string, unknown, string]>([
    ['text', '<p ${...{ style: a }}>x</p>', 'color: red', '<p style="color: red">x</p>'],
    [
      'one bad declaration of text',
      '<p ${...{ style: a }}>x</p>',
      'margin: 0; background: url(//evil.test); color: red',
      '<p style="margin: 0; color: red">x</p>',
    ],
    [
      'what would end or hide something',
      '<p ${...{ style: a }}>x</p>',
      'a: "; color: red; b: (; c: 1); /* d: 2; } e: 3; f: 4\\',
      '<p style="color: red">x</p>',
    ],
    ['declarations', '<p ${...{ style: a }}>x</p>', { '--depth': 4, color: 'red;x' }, '<p style="--depth: 4">x</p>'],
    [
      'joined with the template’s own',
      `<p style='color: "red";' \${...{ style: a }}>x</p>`,
      'margin: 0',
      '<p style="color: &quot;red&quot;; margin: 0">x</p>',
    ],
    [
      'before the template’s own',
      '<p ${...{ style: a }} style="color: ${"red"}">x</p>',
      'margin: 0',
      '<p style="margin: 0; color: red">x</p>',
    ],
    [
      'nothing leaves the own one',
      '<p style=color:red ${...{ style: a, id: 1 }}>x</p>',
      null,
      '<p style="color:red" id="1">x</p>',
    ],
    ['nothing at all', '<p style ${...{ style: a }}>x</p>', 'url(x): y', '<p style="">x</p>'],
  ])('a style in a list of attributes: %s', async (_name, template, a, expected) => {
    expect(await render(`<meta (takes a)>${template}`, { a }, {}, { logger: quietLogger })).toBe(expected);
  });

  test('data that looks like a trusted value is not one', async () => {
    const a = JSON.parse('{"zip-loom.trusted-html": "<b>"}') as object;
    expect((await failure('<meta (takes a)>${a}', { a })).code).toBe('invalid-value');
  });

  test('a nonce is on scripts and style sheets, and only there', async () => {
    const { createLoom } = await import('zip-loom');
    const page =
      '<link rel="stylesheet" href="/a.css"><link rel="icon" href="/i.svg"><script src="/a.js"></script><style>a{}</style><script nonce="own"></script>';
    const loom = await createLoom({ sources: { 'pages/a.html': page } });
    expect(loom.renderSync('a', {}, { context: { nonce: 'n"1' } })).toBe(
      '<link rel="stylesheet" href="/a.css" nonce="n&quot;1"><link rel="icon" href="/i.svg"><script src="/a.js" nonce="n&quot;1"></script><style nonce="n&quot;1">a{}</style><script nonce="own"></script>',
    );
    expect(loom.renderSync('a')).toBe(page);
  });

  test('an undefined that is printed is noted in development, with its place', async () => {
    const messages: string[] = [];
    const logger = { warn: (_details: object, message: string) => messages.push(message), error: () => {} };
    await render('<meta (takes a)>\n<p>${a.nmae}</p>', { a: {} }, {}, { mode: 'development', logger });
    await render('<meta (takes a)>\n<p>${a.nmae}</p>', { a: {} }, {}, { logger });
    expect(messages).toEqual([expect.stringMatching(/^pages\/page\.html:2:6: “a\.nmae” is undefined\. /)]);
  });

  test('more schemes by configuration', async () => {
    expect(await render('<meta (takes a)><a href="geo:${a},2"></a>', { a: 1 }, {}, { schemes: ['geo'] })).toBe(
      '<a href="geo:1,2"></a>',
    );
    expect(await render('<meta (takes a)><a href=${a}></a>', { a: 'geo:1,2' }, {}, { schemes: ['geo'] })).toBe(
      '<a href="geo:1,2"></a>',
    );
  });
});

describe('values that cannot be printed', () => {
  test.each<[string, unknown, RegExp]>([
    ['an object', { a: 1 }, /fields/],
    ['a function', () => 1, /Call it/],
    ['a symbol', Symbol('x'), /description/],
    ['a promise', Promise.resolve(1), /await value/],
    ['a date', new Date(), /date\(/],
  ])('%s', async (_name, a, hint) => {
    const error = await failure('<meta (takes a)>\n<p>${a}</p>', { a });
    expect([error.code, error.line, error.column]).toEqual(['invalid-value', 2, 6]);
    expect(error.hint).toMatch(hint);
  });

  test.each([
    ['an event handler in a list of attributes', '<a ${...a}></a>', { onclick: 'x' }, 'refused-spread-attribute'],
    ['a malformed name', '<a ${...a}></a>', { 'x y': 1 }, 'refused-spread-attribute'],
    ['a date that is none', '<time datetime=${a}></time>', new Date(Number.NaN), 'invalid-date'],
    ['a drawing of another file', '<svg><use href=${a}></use></svg>', '/x.svg#a', 'refused-code-url'],
    ['half a character in a name', '<a ${...a}></a>', { 'x\ud800': 1 }, 'refused-spread-attribute'],
    ['text as a list of attributes', '<a ${...a}></a>', 'x', 'invalid-spread'],
    ['a script’s address that nobody trusts', '<script src=${a}></script>', '/x.js', 'refused-code-url'],
    [
      'an address of an import map that nobody trusts',
      '<script type="importmap">{"imports": {"x": ${a}}}</script>',
      '/x.js',
      'refused-code-url',
    ],
    ['a style sheet’s address that nobody trusts', '<link rel="stylesheet" href=${a}>', '/x.css', 'refused-code-url'],
    ['the address of a link whose rel is not fixed', '<link rel=${a} href=${a}>', 'stylesheet', 'refused-code-url'],
    [
      'the address of a refresh in a list of attributes',
      '<meta http-equiv="&#82;efresh" ${...a}>',
      { content: '0; url=x' },
      'refused-spread-attribute',
    ],
    [
      'another rel in a list of attributes',
      '<link rel="icon" href="/x" ${...a}>',
      { rel: 'stylesheet' },
      'refused-spread-attribute',
    ],
    ['srcdoc in a list of attributes', '<iframe ${...a}></iframe>', { srcdoc: '<b>' }, 'refused-spread-attribute'],
    ['a number to repeat', '<i (for x of a)></i>', 3, 'invalid-list'],
    ['a text that is no date', '${date(a)}', 'soon', 'invalid-date'],
    ['a circle as JSON', '<script type="application/json">${a}</script>', circle(), 'invalid-json-value'],
  ])('%s', async (_name, template, a, code) => {
    expect((await failure(`<meta (takes a)>${template}`, { a })).code).toBe(code);
  });
});

describe('places that are refused', () => {
  test('a whole style has its own message', async () => {
    const [error] = await errors('<p style=${1}>');
    expect(error!.diagnostic.message).toBe('A value is not allowed in the place of a whole style.');
  });

  test.each([
    ['a tag’s name', '<${1}>', 'refused-tag-name'],
    ['a part of a tag’s name', '<h${1}>x</h1>', 'refused-tag-name'],
    ['an attribute’s name', '<p data-${1}="x">', 'refused-attribute-name'],
    ['an event handler', '<p onclick="f(${1})">', 'refused-event-handler'],
    ['srcdoc', '<iframe srcdoc=${1}></iframe>', 'refused-attribute'],
    ['the type of a script', '<script type=${1}></script>', 'refused-attribute'],
    ['a fixed javascript: address', '<a href="javascript:f(${1})">', 'refused-scheme'],
    ['the same with character references', '<a href="&#106;avascript&colon;f(${1})">', 'refused-scheme'],
    ['the action of a posting form', '<form action="javascript:f(${1})" method="post"></form>', 'refused-scheme'],
    ['an encoding', '<math><annotation-xml encoding=${1}></annotation-xml></math>', 'refused-attribute'],
    ['an attribute of a font', '<font color=${1}>x</font>', 'refused-attribute'],
    ['a charset', '<meta charset=${1}>', 'refused-attribute'],
    ['an http-equiv', '<meta http-equiv=${1}>', 'refused-attribute'],
    ['is', '<p is=${1}>x</p>', 'refused-attribute'],
    ['a string of an import map', '<script type="importmap">{"imports": {"x": "/${1}"}}</script>', 'refused-code-url'],
    ['a whole style', '<p style=${1}>', 'refused-style-value'],
    ['json(…) in a script of JSON', '<script type="application/json">${json({ a: 1 })}</script>', 'repeated-json'],
    ['a script from the document itself', '<script src="#${1}"></script>', 'refused-code-url'],
    ['a property’s name', '<p style="${1}: x">', 'refused-style-value'],
    ['url() of a style', '<p style="background: url(/${1})">', 'refused-style-value'],
    ['the start of a script’s address', '<script src="${1}/x.js"></script>', 'refused-code-url'],
    ['an iframe’s text', '<iframe>${1}</iframe>', 'refused-text'],
    ['a script in SVG', '<svg><script>${1}</script></svg>', 'refused-script-value'],
    ['what an SVG animation sets', '<svg><set attributeName="href" to=${1} /></svg>', 'refused-attribute'],
    ['a refresh in character references', '<meta http-equiv="&#82;efresh" content=${1}>', 'refused-refresh'],
    ['a refresh without an address', '<meta http-equiv="refresh" content=${1}>', 'refused-refresh'],
    ['JSON that is none', '<script type="application/json">{${1}}</script>', 'invalid-json-script'],
  ])('%s', async (_name, template, code) => {
    const found = await problems(template);
    expect(found.map((one) => one.split('@')[0])).toEqual([code]);
  });
});

function circle(): object {
  const object: Record<string, unknown> = {};
  object['self'] = object;
  return object;
}
