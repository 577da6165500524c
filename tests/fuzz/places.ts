/** Every place where a value may stand, and what must hold there for any data. */
import { parse, parseFragment } from 'parse5';
import { createLoom, type Loom, LoomError, TemplateError } from 'zip-loom';

/** A template with one value `a` at one place. */
export interface Place {
  name: string;
  template: string;
  /** What must hold of the printed page beyond its structure; gives the complaint, or nothing. */
  check?: (html: string) => string | undefined;
}

const allowedSchemes = new Set(['http:', 'https:', 'mailto:', 'tel:', 'sms:']);

export const places: Place[] = [
  { name: 'text', template: '<p>${a}</p><b>x</b>' },
  { name: 'text beside an ampersand', template: '<p>&${a};</p>' },
  { name: 'text in a table', template: '<table><tr><td>${a}</td></tr></table>' },
  { name: 'text in a select', template: '<select><option>${a}</option></select>' },
  { name: 'text in SVG', template: '<svg><text>${a}</text><title>${a}</title></svg>' },
  { name: 'text in MathML', template: '<math><mi>${a}</mi><mtext>${a}</mtext></math>' },
  { name: 'text in noscript', template: '<noscript><p>${a}</p></noscript>' },
  { name: 'title', template: '<title>${a}</title><p>x</p>' },
  { name: 'textarea', template: '<textarea>${a}</textarea><p>x</p>' },
  { name: 'pre', template: '<pre>${a}</pre><p>x</p>' },
  { name: 'a whole attribute', template: '<p title=${a}>x</p>' },
  { name: 'a part of an attribute', template: '<p title="a ${a} b">x</p>' },
  { name: 'a part of an unquoted attribute', template: '<p title=a${a}b id=y>x</p>' },
  { name: 'a part of a single-quoted attribute', template: "<p title='\"${a}' id='y'>x</p>" },
  { name: 'an attribute of a void element', template: '<input value=${a} name="n"><p>x</p>' },
  { name: 'a boolean attribute', template: '<input disabled=${a} name="n">' },
  { name: 'an enumerated attribute', template: '<p contenteditable=${a} aria-hidden=${a}>x</p>' },
  { name: 'a token list', template: '<p class=${a}>x</p>' },
  { name: 'tokens of an array', template: '<p class=${[a, "b", [a]]}>x</p>' },
  { name: 'a part of a token list', template: '<p class="a ${a}" id="y">x</p>' },
  { name: 'an address', template: '<a href=${a}>x</a>', check: addressCheck('a', 'href') },
  {
    name: 'an address in quotes, with text behind',
    template: '<a href="${a}/x">x</a>',
    check: addressCheck('a', 'href'),
  },
  { name: 'an address of two values', template: '<a href="${a}${a}">x</a>', check: addressCheck('a', 'href') },
  {
    name: 'an address of two values with a colon',
    template: '<a href="${a}:${a}">x</a>',
    check: addressCheck('a', 'href'),
  },
  { name: 'a segment', template: '<a href="/b/${a}/c">x</a>', check: staysBelow('/b/', '/c') },
  { name: 'two halves of a segment', template: '<a href="/b/${a}${a}/c">x</a>', check: staysBelow('/b/', '/c') },
  { name: 'a query', template: '<a href="/b?q=${a}&r=1">x</a>', check: staysBelow('/b', undefined) },
  { name: 'a fragment', template: '<a href="/b#${a}">x</a>', check: staysBelow('/b', undefined) },
  { name: 'an image', template: '<img src=${a} alt="">', check: addressCheck('img', 'src', true) },
  { name: 'an action', template: '<form action=${a}></form>', check: addressCheck('form', 'action') },
  {
    name: 'an action of a posting form',
    template: '<form action=${a} method="post"></form>',
    check: addressCheck('form', 'action'),
  },
  {
    name: 'an address in SVG',
    template: '<svg><a xlink:href=${a}><text>x</text></a></svg>',
    check: addressCheck('a', 'xlink:href'),
  },
  { name: 'image candidates', template: '<img srcset=${a} alt="">' },
  { name: 'a part of image candidates', template: '<img srcset="${a} 1x, /b.png 2x" alt="">' },
  { name: 'a style', template: '<p style="--depth: ${a}; color: red">x</p>', check: styleCheck(['--depth', 'color']) },
  {
    name: 'a part of a style',
    template: '<p style="width: calc(${a} + 1px); color: red">x</p>',
    check: styleCheck(['width', 'color']),
  },
  { name: 'JSON', template: '<script type="application/json">{"a": ${a}, "b": 1}</script><p>x</p>', check: jsonCheck },
  {
    name: 'a JSON string',
    template: '<script type="application/ld+json">{"a": "x ${a} y", "b": 1}</script><p>x</p>',
    check: jsonCheck,
  },
  { name: 'a list of attributes', template: '<p ${...{ title: a, class: a, "data-x": a, href: a, style: a }}>x</p>' },
  {
    name: 'an address in a list of attributes',
    template: '<a ${...{ href: a }}>x</a>',
    check: addressCheck('a', 'href'),
  },
  { name: 'names of a list of attributes', template: '<p id="y" ${...{ [String(a)]: "v" }}>x</p>', check: noHandlers },
  { name: 'a refresh', template: '<meta http-equiv="refresh" content="5; url=${a}"><p>x</p>' },
  {
    name: 'a script’s address behind a settled origin',
    template: '<script src="/js/${a}.js"></script><p>x</p>',
    check: staysBelow('/js/', undefined, 'script', 'src'),
  },
  { name: 'an argument', template: '<echo-box text=${a} more="x ${a}"/>' },
  { name: 'a list', template: '<ul><li (for one of [a, a])>${one}</li></ul>' },
];

/** A loom with a page for each place; `place-0` and on. */
export async function placesLoom(): Promise<Loom> {
  const sources: Record<string, string> = {
    'partials/echo-box.html': '<meta (takes text, more)><p title=${text}>${more}${text}</p>',
  };
  for (const [index, { template }] of places.entries())
    sources[`pages/place-${index}.html`] = `<meta (takes a)>${template}`;
  return createLoom({ sources, secret: 'a secret for tests alone', logger: { warn: () => {}, error: () => {} } });
}

/**
 * Renders one place with some data and compares it with harmless data.
 * @returns the complaint, or `undefined` when all holds. A value that is refused with an error of ours holds too.
 */
export function tryPlace(loom: Loom, index: number, a: unknown): string | undefined {
  const place = places[index]!;
  let html: string;
  try {
    html = loom.renderSync(`place-${index}`, { a });
  } catch (error) {
    if (error instanceof TemplateError && error.code !== 'render-error') return undefined;
    if (error instanceof LoomError) return undefined;
    return `threw ${String(error)}`;
  }
  if (!html.isWellFormed()) return 'is not well-formed Unicode';
  const harmless = harmlessStructure(loom, index);
  const actual = structureOf(html);
  if (!isAlike(harmless, actual)) return `has another structure: ${html}`;
  return place.check?.(html);
}

/** What each place is with harmless data, worked out once. */
const harmlessStructures = new Map<number, Structure[]>();

function harmlessStructure(loom: Loom, index: number): Structure[] {
  let structure = harmlessStructures.get(index);
  if (!structure) {
    structure = structureOf(loom.renderSync(`place-${index}`, { a: 'x' }));
    harmlessStructures.set(index, structure);
  }
  return structure;
}

/** An element by name, the names of its attributes, and its elements. */
interface Structure {
  name: string;
  attributes: string[];
  children: Structure[];
}

interface ParsedNode {
  nodeName: string;
  attrs?: Array<{ name: string; value: string; prefix?: string }>;
  childNodes?: ParsedNode[];
  content?: ParsedNode;
}

function structureOf(html: string): Structure[] {
  return elementsOf(parseFragment(html) as unknown as ParsedNode);
}

function elementsOf(node: ParsedNode): Structure[] {
  return (
    (node.content ?? node).childNodes?.flatMap((child) => {
      if (child.nodeName === '#text') return [];
      const attributes = (child.attrs ?? []).map((attribute) =>
        attribute.prefix ? `${attribute.prefix}:${attribute.name}` : attribute.name,
      );
      return [{ name: child.nodeName, attributes: attributes.sort(), children: elementsOf(child) }];
    }) ?? []
  );
}

/** The same elements; attributes that a value may leave out may be missing, never others. */
function isAlike(harmless: Structure[], actual: Structure[]): boolean {
  if (harmless.length !== actual.length) return false;
  return harmless.every((one, index) => {
    const other = actual[index]!;
    const fixed = one.attributes.filter((name) => name === 'x');
    const allowed = new Set([...one.attributes, ...(fixed.length > 0 ? other.attributes : [])]);
    return (
      one.name === other.name &&
      other.attributes.every((name) => allowed.has(name)) &&
      isAlike(one.children, other.children)
    );
  });
}

function attributeIn(html: string, element: string, name: string): string | undefined {
  const find = (node: ParsedNode): string | undefined => {
    if (node.nodeName === element) {
      const found = node.attrs?.find(
        (attribute) => (attribute.prefix ? `${attribute.prefix}:${attribute.name}` : attribute.name) === name,
      );
      if (found) return found.value;
    }
    for (const child of node.childNodes ?? []) {
      const value = find(child);
      if (value !== undefined) return value;
    }
    return undefined;
  };
  return find(parse(html) as unknown as ParsedNode);
}

function addressCheck(element: string, name: string, isImage = false) {
  return (html: string): string | undefined => {
    const value = attributeIn(html, element, name);
    if (value === undefined || value === 'about:blank#blocked') return undefined;
    // As browsers read it: with the URL standard’s own parser.
    const url = URL.canParse(value) ? new URL(value) : undefined;
    if (!url || allowedSchemes.has(url.protocol)) return undefined;
    if (isImage && /^data:image\//i.test(url.href)) return undefined;
    return `lets ${url.protocol} pass: ${html}`;
  };
}

function staysBelow(start: string, end: string | undefined, element = 'a', name = 'href') {
  return (html: string): string | undefined => {
    const value = attributeIn(html, element, name);
    if (value === undefined || value === 'about:blank#blocked') return undefined;
    const { origin, pathname } = new URL(value, 'http://harbour.test/deep/er/');
    const holds =
      origin === 'http://harbour.test' && pathname.startsWith(start) && (end === undefined || pathname.endsWith(end));
    return holds ? undefined : `leads elsewhere: ${html}`;
  };
}

/** Declarations as CSS Syntax reads them, as far as strings, brackets, escapes and comments go. */
function styleCheck(names: string[]) {
  return (html: string): string | undefined => {
    const value = attributeIn(html, 'p', 'style') ?? '';
    if (/[\\"'{}@<]|\/\*|url\s*\(/i.test(value)) return `holds what may leave a declaration: ${html}`;
    let depth = 0;
    let declaration = '';
    for (const character of `${value};`) {
      if (character === '(') depth++;
      if (character === ')') depth--;
      if (character === ';' && depth === 0) {
        const name = declaration.split(':')[0]!.trim();
        if (name !== '' && !names.includes(name)) return `declares ${name}: ${html}`;
        declaration = '';
      } else declaration += character;
    }
    return depth === 0 && declaration === '' ? undefined : `leaves a bracket open: ${html}`;
  };
}

function jsonCheck(html: string): string | undefined {
  const text = /<script[^>]*>([\s\S]*?)<\/script>/.exec(html)?.[1] ?? '';
  const value = JSON.parse(text) as { b?: unknown };
  if (/[<>&\u2028\u2029]/.test(text)) return `is not closed: ${html}`;
  return Object.keys(value).join() === 'a,b' && value.b === 1 ? undefined : `is other JSON: ${html}`;
}

function noHandlers(html: string): string | undefined {
  const node = parseFragment(html) as unknown as ParsedNode;
  const names = node.childNodes?.[0]?.attrs?.map((attribute) => attribute.name) ?? [];
  return names.some((name) => name.startsWith('on') || name === 'srcdoc') ? `sets a handler: ${html}` : undefined;
}
