/** `zip-loom format`: laid out evenly, and the same to who reads it. */
import { cpSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { parse, serialize } from 'parse5';
import { createLoom } from 'zip-loom';
import { makeProject, type Project } from '../support/projects.ts';

let project: Project;
beforeAll(() => {
  project = makeProject({ 'templates/pages/good.html': '<p>x</p>\n' });
});
afterAll(() => project.remove());

const read = (path: string) => readFileSync(join(project.folder, path), 'utf8');

/** A template laid out. */
function laidOut(source: string): string {
  project.write('templates/pages/page.html', source);
  const { status, stderr } = project.loom('format', 'templates/pages/page.html');
  expect([stderr, status]).toEqual(['', 0]);
  return read('templates/pages/page.html');
}

describe('the layout', () => {
  test.each([
    [
      'steps to the right',
      '<ul>\n<li>a\n</li>\n      <li>b</li>\n</ul>',
      '<ul>\n  <li>a\n  </li>\n  <li>b</li>\n</ul>\n',
    ],
    [
      'elements that begin on one line',
      '<li><article>\n<h2>x</h2>\n</article></li>\n',
      '<li><article>\n  <h2>x</h2>\n</article></li>\n',
    ],
    ['blank lines', '\n\n<p>a</p>\n\n\n\n<p>b</p>\n\n\n', '<p>a</p>\n\n<p>b</p>\n'],
    ['space at the ends of lines', '<p>a   \n  b</p>\t\n', '<p>a\n  b</p>\n'],
    ['no space where there was none', '<ul><li>a</li><li>b</li></ul>', '<ul><li>a</li><li>b</li></ul>\n'],
    ['space inside of lines', '<p>a  b</p>', '<p>a  b</p>\n'],
    ['tags', '<p   class = "a"\n id=b   >x</p  >', '<p class="a" id=b>x</p>\n'],
    ['clauses', '<p ( if  true )>x</p>', '<p (if true)>x</p>\n'],
    ['substitutions', '<p>${  1 + 1 }</p>', '<p>${1 + 1}</p>\n'],
    [
      'what is written as it is',
      '<div>\n<pre>\n a\n  b\n</pre>\n<textarea>\n a</textarea>\n</div>',
      '<div>\n  <pre>\n a\n  b\n</pre>\n  <textarea>\n a</textarea>\n</div>\n',
    ],
    [
      'code of others',
      '<style>\na  {}\n</style>\n<script>\n  x\n</script>',
      '<style>\na  {}\n</style>\n<script>\n  x\n</script>\n',
    ],
    ['what its style shows', '<p style="white-space: pre">a\n   b</p>', '<p style="white-space: pre">a\n   b</p>\n'],
    [
      'end tags that are left out',
      '<ul>\n<li>a\n<li>b\n<b>c</b>\n</ul>',
      '<ul>\n  <li>a\n  <li>b\n    <b>c</b>\n</ul>\n',
    ],
    ['spaces that are none', '<p>\n\u00a0a\n</p>', '<p>\n  \u00a0a\n</p>\n'],
    ['line ends of two characters', '<p>\r\na\r\n</p>\r\n', '<p>\r\n  a\r\n</p>\r\n'],
    ['nothing', '  \n', ''],
    [
      'tags that are too long',
      `<input name="a" ${'x'.repeat(60)} ${'y'.repeat(60)}>`,
      `<input\n  name="a"\n  ${'x'.repeat(60)}\n  ${'y'.repeat(60)}\n>\n`,
    ],
    [
      'long tags in a line, which are left so',
      `<p>a <input name="a" ${'x'.repeat(60)} ${'y'.repeat(60)}></p>`,
      `<p>a <input name="a" ${'x'.repeat(60)} ${'y'.repeat(60)}></p>\n`,
    ],
    ['tags that are short enough', '<input\n  name="a"\n  id="b"\n>', '<input name="a" id="b">\n'],
  ])('of %s', (_, source, text) => {
    expect(laidOut(source)).toBe(text);
  });
});

/** To a browser: whitespace of any length is one space, but where it is shown. */
function shown(html: string): string {
  return serialize(parse(html))
    .split(/(<pre[\s\S]*?<\/pre>|<textarea[\s\S]*?<\/textarea>|<style[\s\S]*?<\/style>|<script[\s\S]*?<\/script>)/)
    .map((part, at) => (at % 2 === 1 ? part : part.replace(/[ \t\n\f\r]+/g, ' ')))
    .join('')
    .replace(/ ?<\/head> ?/, '</head>')
    .replace(/ <\/body><\/html>$/, '</body></html>');
}

const space = fc.constantFrom('', ' ', '\n', '\n\n\n', '  \n\t ', ' \r\n ', '\f', '\u00a0');
const inTag = fc.constantFrom(' ', '  ', '\n', '\n   ', '\t');
const item = fc.constantFrom(
  'class="a b"',
  'id = x',
  "title='it  is'",
  'hidden',
  '(if yes)',
  '( if  !yes )',
  '(for x of [1, 2])',
  'data-x="a\n  b"',
  'data-y=${yes ? "a  b" : null}',
  '${...{ lang: "en" }}',
  `data-long="${'z'.repeat(70)}"`,
  `data-longer="${'w'.repeat(70)}"`,
);
const piece = fc.letrec<{ piece: string; content: string }>((tie) => ({
  content: fc
    .array(fc.tuple(space, tie('piece')), { maxLength: 4 })
    .chain((all) => space.map((end) => all.flat().join('') + end)),
  piece: fc.oneof(
    { depthSize: 'small' },
    fc.constantFrom(
      'words and  more',
      '${ "a  b" }',
      '${[1,\n  2].length}',
      '<!-- a\n   b -->',
      '<br>',
      '<img src="/x.png" alt="" />',
      '\\${no}',
      '&nbsp;',
    ),
    fc.constantFrom(
      '<pre>\n  a\n b</pre>',
      '<textarea>\n\n x</textarea>',
      '<style>\n b  {}\n</style>',
      '<script>\n  1;\n</script>',
    ),
    fc.constantFrom(
      '<p style="white-space:pre">\n  a</p>',
      '<ul>\n<li>a\n<li>b\n</ul>',
      '<svg><path d="M0\n 0"/></svg>',
      '<b (if yes)>a</b>\n <i (else)>b</i>',
    ),
    fc
      .tuple(
        fc.constantFrom('div', 'p', 'b', 'ul', 'section', 'template', 'around-it'),
        fc.uniqueArray(item, { maxLength: 4, selector: (one) => one.slice(0, 5) }),
        inTag,
        tie('content'),
      )
      .map(([name, items, gap, content]) => {
        // A clause of one kind is enough, and the templates’ own elements have no attributes.
        const conditions = items.filter((one) => one.startsWith('('));
        const own =
          name === 'template'
            ? conditions
            : name === 'around-it'
              ? []
              : [...items.filter((one) => !one.startsWith('(')), ...conditions];
        const few = own.filter((one) => !one.startsWith('(') || one === conditions[0]);
        return name === 'template' && few.length === 0 ? content : `<${[name, ...few].join(gap)}>${content}</${name}>`;
      }),
  ),
})).content;

test('whatever stands in a template, it is the same to a browser, and laid out once for all', async () => {
  const sources = fc.sample(piece, { numRuns: 250, seed: 11 });
  expect(sources.filter((source) => source.length > 60).length).toBeGreaterThan(80);
  const many = makeProject({ 'templates/partials/around-it.html': '<em><slot></slot></em>\n' });
  try {
    const head = '<meta (takes yes: boolean)>';
    for (const [at, source] of sources.entries()) many.write(`templates/pages/p${at}.html`, `${head}${source}`);
    const loom = () => createLoom({ templates: join(many.folder, 'templates'), mode: 'development', logger: false });
    const rendered = async () => {
      const one = await loom();
      return Promise.all(
        sources.map((_, at) =>
          one.render(`p${at}`, { yes: at % 2 === 0 }).catch((error: Error) => error.message.split('  ')[1]!),
        ),
      );
    };
    const before = await rendered();
    expect(before.filter((html) => html.includes('<')).length).toBeGreaterThan(120);
    many.loom('format');
    const after = await rendered();
    for (const [at, source] of sources.entries()) {
      expect([source, shown(after[at]!)]).toEqual([source, shown(before[at]!)]);
      const text = readFileSync(join(many.folder, `templates/pages/p${at}.html`), 'utf8');
      const bare = (one: string) => one.replace(/[ \t\n\f\r]+/g, '');
      expect(bare(text)).toBe(bare(`${head}${source}`));
    }
    const again = JSON.parse(many.loom('format', '--check', '--json').stdout) as { changed: string[] };
    expect(again.changed).toEqual([]);
  } finally {
    many.remove();
  }
});

test('real pages, adopted: each is the same to a browser', async () => {
  const theme = makeProject({});
  try {
    cpSync('node_modules/startbootstrap-sb-admin-2', join(theme.folder, 'theme'), {
      recursive: true,
      filter: (path) => !/(?:vendor|scss|\/js)$/.test(path),
    });
    expect(theme.loom('adopt', 'theme').status).toBe(0);
    const render = async () => {
      const loom = await createLoom({ templates: join(theme.folder, 'templates'), mode: 'development', logger: false });
      return Promise.all(loom.pages().map((name) => loom.render(name as never)));
    };
    const before = await render();
    const { stdout, status } = theme.loom('format');
    expect([stdout.split('\n').at(-2), status]).toEqual([
      expect.stringContaining('every page that could be rendered shows the same'),
      0,
    ]);
    expect((await render()).map(shown)).toEqual(before.map(shown));
    expect(before.length).toBe(14);
    expect(theme.loom('format', '--check')).toMatchObject({
      status: 0,
      stdout: expect.stringMatching(/^All \d+ templates are laid out\.\n$/),
    });
  } finally {
    theme.remove();
  }
});

describe('the command', () => {
  test('--check writes nothing, and its exit code tells', () => {
    project.write('templates/pages/page.html', '<ul>\n<li>a</li>\n</ul>\n');
    const { stdout, status } = project.loom('format', '--check', 'templates/pages/page.html');
    expect([stdout, status]).toEqual([
      'templates/pages/page.html\n\n1 of 1 template would be laid out otherwise.\n',
      1,
    ]);
    expect(read('templates/pages/page.html')).toContain('\n<li>');
  });

  test('a template that cannot be read is left as it is, and the others are laid out', () => {
    project.write('templates/pages/broken.html', '<p (if>\n<b>x\n');
    const { stderr, stdout, status } = project.loom('format');
    expect([status, stdout]).toEqual([1, expect.stringContaining('templates/pages/page.html\n')]);
    expect(stderr).toContain('broken.html:1:');
    expect(read('templates/pages/broken.html')).toBe('<p (if>\n<b>x\n');
    expect(readdirSync(join(project.folder, 'templates/pages')).filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  test('a file that is no template', () => {
    expect(project.loom('format', 'none.html')).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('none.html is not a template'),
    });
  });
});
