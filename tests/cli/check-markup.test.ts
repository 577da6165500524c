/** `zip-loom check` of HTML that can be sent, and that browsers take otherwise than it is meant. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

/** Pages, and what is found in each: its code, and where in the page. */
const cases: Array<[page: string, ...found: Array<[code: string, at: string]>]> = [
  ['<p>a<div>b</div></p>', ['misplaced-element', '<div']],
  ['<p>a</p><div>b</div><p>c<ul><li>d</ul></p>', ['misplaced-element', '<ul']],
  ['<p>a<div>b</div><p>no end tag is needed'],
  ['<ul><li>a<li>b</ul><dl><dt>a<dd>b</dl>'],
  ['<table><div>a</div><tr><td>b</table>', ['misplaced-element', '<div']],
  ['<table><caption>a</caption><thead><tr><th>b</thead><tbody><tr><td>c</table>'],
  ['<table><tr><p>a</p><td>b</table>', ['misplaced-element', '<p']],
  ['<table><tr (if 1)><td>a</td></tr><template (for x of [1])><tr><td>${x}</td></tr></template></table>'],
  ['<table><template (if 1)><b>a</b></template></table>', ['misplaced-element', '<b']],
  ['<div><tr><td>a</td></tr></div>', ['misplaced-element', '<tr']],
  ['<tr><td>a row of its own</td></tr>'],
  ['<div><template><tr><td>a</td></tr></template></div>'],
  ['<row-table><tr><td>a</td></tr></row-table>'],
  ['<form><div><form></form></div></form>', ['misplaced-element', '<form></form>']],
  ['<a href="/"><b><a href="/x">b</a></b></a>', ['misplaced-element', '<a href="/x"']],
  ['<a href="/"><table><tr><td><a href="/x">b</a></table></a>'],
  ['<button><button>a</button></button>', ['misplaced-element', '<button>a']],
  ['<h1>a<h2>b</h2></h1>', ['misplaced-element', '<h2']],
  ['<h1><span>a</span></h1><svg><a href="/"><text>b</text></a></svg>'],

  ['<p id="a"></p><p id="a"></p>', ['repeated-id', 'id="a"></p>|2']],
  ['<p id="a" (if 1)></p><b id="a" (else)></b>'],
  ['<p id="a" (if 1)></p><b id="a" (if 2)></b>', ['repeated-id', 'id="a" (if 2)']],
  ['<p (if 1)><i id="a"></i></p><p (else if 2)><i id="a"></i></p><p (else)><i id="a"></i></p>'],
  ['<p id="a" (await x = 1)>${x}</p><p id="a" (meanwhile)></p>'],
  ['<p (for x of [1])><i id="a">${x}</i></p>', ['repeated-id', 'id="a"']],
  ['<p (for x of [1])><i id="a-${x}"></i></p>'],
  [
    '<template (named a-row)><i id="a"></i></template><template (named b-row)><i id="a"></i></template><a-row (if 1)/><b-row (else)/>',
  ],

  // Ids that templates of one page share: certain ones alone.
  ['<query-box></query-box><p id="query"></p>', ['shared-id', 'id="query"']],
  ['<query-box></query-box><p (if 1) id="query"></p>'],
  ['<query-box (if 1)></query-box><query-box (else)></query-box><query-box (if 2)></query-box>'],
  ['<query-box></query-box><template><p id="query"></p></template>'],
  ['<meta (layout framed-page)><nav slot="nav" id="nav"></nav>'],
  ['<meta (layout framed-page)><p id="main"></p>', ['shared-id', 'id="main"']],

  ['<label for="nmae">a</label><input id="name">', ['lost-reference', 'for="nmae"']],
  ['<label for="elsewhere">a</label><label for="row-7">b</label>'],
  ['<p aria-describedby="name hint-1"></p>', ['lost-reference', 'aria-describedby']],
  ['<form (bind { name: "x" }) method="post"><label for="made-by-the-form">a</label></form>'],

  ['<img src="https://harbour.test/a.png">', ['missing-alt', '<img']],
  ['<img src="https://harbour.test/a.png" alt><img src="https://harbour.test/b.png" ${...{ alt: "" }}>'],
  ['<!doctype html><html><head><title>a</title></head></html>', ['missing-charset', '<head']],
  ['<!doctype html><html><head><META CHARSET=utf-8></head></html>'],
  ['<!doctype html><html><head><site-head></site-head></head></html>'],

  ['<a href="/berhts/7">a</a>', ['lost-link', 'href']],
  ['<form action="/berths"></form><a href="/berths/7/x">a</a>', ['lost-link', 'action'], ['lost-link', 'href']],
  ['<a href="/berths/${1}?x=/y#z">a</a><a href="/berths/">b</a>', ['lost-link', 'href="/berths/">']],
  ['<a href="/files/a/${1}.txt">a</a><a href="https://harbour.test/y">b</a><a href="//y">c</a><a href="?q=1">d</a>'],

  ['<meta (takes a, b = a, c)><p>${b}</p>', ['unused-parameter', 'c)']],
  ['<meta (takes a, ...rest)><p ${...rest}>${[1].map((a) => a)}</p>', ['unused-parameter', 'a,']],
];

const others = {
  'templates/partials/query-box.html': '<input id="query">',
  'templates/partials/price-box.html': '<b id="price"></b><i (if 1) id="old-price"></i>',
  'templates/partials/twice-box.html': '<price-box></price-box><price-box></price-box>',
  'templates/partials/side-box.html': '<i id="side"></i>',
  'templates/partials/framed-page.html':
    '<!doctype html><html><head><meta charset="utf-8"></head><body><slot name="nav"><nav id="nav"></nav></slot><main id="main"><slot></slot></main></body></html>',
  'templates/pages/listed.html': '<side-box (for x of [1, 2])></side-box><twice-box (if 1)></twice-box>',
  'templates/pages/twice.html': '<twice-box></twice-box>',
  'templates/partials/row-table.html': '<table><slot></slot></table>',
  'templates/partials/site-head.html': '<meta charset="utf-8">',
  'templates/partials/elsewhere-part.html': '<p id="elsewhere"></p><p (for x of [1]) id="row-${x}"></p>',
  'templates/partials/lonely-part.html': '<p>nobody</p>',
  'zip-loom.config.js': "export default { paths: ['/', '/x', '/berths/:id', '/files/*'] };",
  'src/site.ts': "export const name = 'elsewhere-part';",
};

interface Finding {
  file: string;
  line: number;
  column: number;
  code: string;
  severity: string;
  message: string;
  hint: string | null;
}

/** What is looked at of a result of SARIF. */
interface SarifResult {
  ruleId: string;
  ruleIndex: number;
  level: string;
  locations: [
    { physicalLocation: { artifactLocation: { uri: string }; region: { startLine: number; startColumn: number } } },
  ];
}

let project: Project;
let found: Finding[];
beforeAll(() => {
  const pages = cases.map(([page], at) => [`templates/pages/page-${at}.html`, page]);
  project = makeProject({ ...Object.fromEntries(pages), ...others });
  found = JSON.parse(project.loom('check', '--no-types', '--json').stdout) as Finding[];
});
afterAll(() => project?.remove());

test.each(cases.map((one, at) => [one[0], at] as const))('%s', (page, at) => {
  const here = found.filter(({ file }) => file === `templates/pages/page-${at}.html`);
  const expected = (cases[at]!.slice(1) as Array<[string, string]>).map(([code, text]) => {
    const [what = '', time] = text.split('|');
    const first = page.indexOf(what);
    const column = (time ? page.indexOf(what, first + 1) : first) + (what.startsWith('<') ? 2 : 1);
    return { code, line: 1, column, severity: 'warning' };
  });
  expect(here).toEqual(expected.map((one) => expect.objectContaining(one)));
});

test('the same as SARIF', () => {
  const { runs, version } = JSON.parse(project.loom('check', '--no-types', '--sarif').stdout) as {
    version: string;
    runs: Array<{ tool: { driver: { name: string; rules: Array<{ id: string }> } }; results: SarifResult[] }>;
  };
  const { tool, results } = runs[0]!;
  expect([version, runs.length, tool.driver.name]).toEqual(['2.1.0', 1, 'zip-loom']);
  const plain = results.map(({ ruleId, ruleIndex, level, locations: [{ physicalLocation }] }) => {
    expect(tool.driver.rules[ruleIndex]!.id).toBe(ruleId);
    const { startLine: line, startColumn: column } = physicalLocation.region;
    return { file: physicalLocation.artifactLocation.uri, line, column, code: ruleId, severity: level };
  });
  expect(plain).toEqual(
    found.map(({ file, line, column, code, severity }) => ({ file, line, column, code, severity })),
  );
});

test('a partial that nobody calls and no code names', () => {
  const unused = found.filter(({ code }) => code === 'unused-partial').map(({ file }) => file);
  expect(unused).toEqual(['templates/partials/lonely-part.html']);
});

test('an id of a partial that a page shows several times', () => {
  const shared = found.filter(({ code, file }) => code === 'shared-id' && file.includes('/partials/'));
  expect(shared.map(({ file, message }) => [file, message])).toEqual([
    [
      'templates/partials/price-box.html',
      'The page “twice” shows the id “price” several times: it calls this template more than once.',
    ],
    [
      'templates/partials/side-box.html',
      'The page “listed” shows the id “side” several times: this template is called in a list.',
    ],
  ]);
});

test('a folder of static pages says where links lead', () => {
  const site = makeProject({
    'zip-loom.config.js': "export default { paths: 'public' };",
    'public/index.html': 'x',
    'public/about.html': 'x',
    'public/docs/index.html': 'x',
    'public/files/map.pdf': 'x',
    'templates/pages/home.html': [
      '/',
      '/index.html',
      '/about',
      '/about.html',
      '/docs/',
      '/docs',
      '/files/map.pdf?x#y',
      '/abuot',
      '/docs/more',
      '/files/map',
    ]
      .map((path) => `<a href="${path}">x</a>`)
      .join('\n'),
  });
  const lost = JSON.parse(site.loom('check', '--no-types', '--json').stdout) as Finding[];
  site.write('zip-loom.config.js', "export default { paths: 'pubilc' };");
  const { status, stderr } = site.loom('check', '--no-types');
  site.remove();
  expect(lost.map(({ code, line, hint }) => [code, line, hint])).toEqual([
    ['lost-link', 8, 'Did you mean “/about”?'],
    ['lost-link', 9, expect.any(String)],
    ['lost-link', 10, expect.any(String)],
  ]);
  expect([status, stderr]).toEqual([2, expect.stringMatching(/static pages .*pubilc cannot be read/)]);
});
