/** Makes a module of the blocks of a page: each is run within those before it, so that names may be said again. */
import type { Block } from './blocks.ts';

export interface Line {
  text: string;
  /** The line of the page that it is of. */
  of?: number;
}

export interface Part {
  blocks: Block[];
  isInBrowser: boolean;
}

const returnsAtTop = ({ text, file }: Block) => file === undefined && /^(?:if \(.*\) )?return /m.test(text);
const readsBody = ({ text }: Block) => /exchange\.(?:read|fields|verify)\w*\(/.test(text);
const isForBrowsers = ({ text }: Block) =>
  /\bdocument\.|from 'zip-loom\/(?:client|built|templates)|from '\.\/templates\//.test(text);
/** What a setting has for what runs the blocks. */
const ofRun = ['begin', 'arrive'];
const importPattern = /^import (.+) from '(.+)';$/gm;
const namesIn = (what: string) => what.match(/\w+/g) ?? [];

/** Blocks that can be in one module: all for a server or all for a browser, and no name is from two modules. */
export function partsOf(blocks: readonly Block[]): Part[] {
  const parts: Part[] = [];
  const sourceOf = new Map<string, string>();
  for (const block of blocks) {
    const isInBrowser = isForBrowsers(block);
    const imports = [...block.text.matchAll(importPattern)].flatMap(([, what = '', from = '']) =>
      namesIn(what).map((name) => [name, from] as const),
    );
    const last = parts.at(-1);
    const fits = imports.every(([name, from]) => (sourceOf.get(name) ?? from) === from);
    if (last !== undefined && last.isInBrowser === isInBrowser && fits) last.blocks.push(block);
    else {
      sourceOf.clear();
      parts.push({ blocks: [block], isInBrowser });
    }
    for (const [name, from] of imports) sourceOf.set(name, from);
  }
  return parts;
}

/** The module of a part. What its blocks name and do not make comes from `setting`, which has the names `given`. */
export function moduleOf({ blocks }: Part, setting: string, given: readonly string[]): Line[] {
  const imports = new Map<string, Set<string>>();
  const body: Line[] = [];
  for (const [index, block] of blocks.entries()) {
    body.push({
      text: `await arrive(${readsBody(block)}); at(${index}); ${returnsAtTop(block) ? 'await (async () => {' : '{'}`,
    });
    if (block.file !== undefined) {
      // What TypeScript alone reads is not run.
      if (!block.file.endsWith('.d.ts')) body.push({ text: `await import('./${block.file}');`, of: block.line });
      continue;
    }
    for (const [number, text] of block.text.trimEnd().split('\n').entries()) {
      const [, what, from = ''] = new RegExp(importPattern, 'm').exec(text) ?? [];
      if (what !== undefined) imports.set(from, (imports.get(from) ?? new Set()).add(what));
      else body.push({ text: text.replace(/^export (?:default )?(?=\w)/, ''), of: block.line + number });
    }
    if (returnsAtTop(block)) body.push({ text: '})();' });
  }
  const whole = blocks.map(({ text }) => text).join('\n');
  const imported = new Set([...imports.values()].flatMap((several) => [...several].flatMap(namesIn)));
  const needed = given.filter(
    (name) => !ofRun.includes(name) && !imported.has(name) && new RegExp(`\\b${name}\\b`).test(whole),
  );
  return [
    ...[...imports].flatMap(([from, several]) => importLines(from, [...several])),
    { text: `import { ${[...ofRun, ...needed].join(', ')} } from './${setting}';` },
    { text: 'export async function run(at: (index: number) => void) {' },
    { text: 'begin();' },
    ...body,
    // What answers requests, for those who want to ask it.
    ...(/\bapp\./.test(whole) ? [{ text: 'return app;' }] : []),
    {
      text: blocks
        .filter((block) => !returnsAtTop(block))
        .map(() => '}')
        .join(' '),
    },
    { text: '}' },
  ];
}

/** What several blocks import from one module, once. */
function importLines(from: string, several: readonly string[]): Line[] {
  const named = several.flatMap((what) => /^\{ (.*) \}$/.exec(what)?.[1]?.split(', ') ?? []);
  const others = several.filter((what) => !what.startsWith('{'));
  return [
    ...others.map((what) => ({ text: `import ${what} from '${from}';` })),
    ...(named.length > 0 ? [{ text: `import { ${[...new Set(named)].join(', ')} } from '${from}';` }] : []),
  ];
}
