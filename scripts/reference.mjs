/** The reference of one entry, from its doc comments. */
import { ApiModel } from '@microsoft/api-extractor-model';

/** Functions first: they are what somebody calls. */
const order = ['Function', 'Class', 'Interface', 'TypeAlias', 'Variable', 'Enum', 'Namespace'];

/**
 * @param model the file of the model of its exports
 * @returns the page, and the functions that have no example
 */
export function referencePage(entry, model) {
  const members = entryPointOf(model)
    .members.filter(({ isExported }) => isExported)
    .sort(
      (one, other) =>
        order.indexOf(one.kind) - order.indexOf(other.kind) || one.displayName.localeCompare(other.displayName),
    );
  const ids = headingIds(members.map(({ displayName }) => displayName));
  const first = members.filter(({ displayName }, at) => members[at - 1]?.displayName !== displayName);
  const index = first.map((one) => `[\`${one.displayName}\`](#${ids[members.indexOf(one)]})`);
  const page = [
    `# \`${entry}\``,
    'Made from the doc comments of the sources by `npm run api`.',
    index.join(' · '),
    ...members.map(sectionOf),
    '',
  ].join('\n\n');
  const functions = members.filter(({ kind }) => kind === 'Function');
  const hasExample = (name) =>
    functions.some((one) => one.displayName === name && one.tsdocComment?.emitAsTsdoc().includes('@example'));
  const withoutExample = [...new Set(functions.map(({ displayName }) => displayName))].filter(
    (name) => !hasExample(name),
  );
  return { page, withoutExample };
}

/** Hosts of code number headings that are the same in lower case. */
function headingIds(names) {
  const seen = new Map();
  return names.map((name) => {
    const id = name.toLowerCase();
    const count = seen.get(id) ?? 0;
    seen.set(id, count + 1);
    return count === 0 ? id : `${id}-${count}`;
  });
}

/** What an entry exports, and the types behind that. */
export function entryPointOf(model) {
  const [point] = new ApiModel().loadPackage(model).entryPoints;
  return point;
}

/** Members of its own, and those that it has from what it extends. */
export function allMembersOf(item) {
  const own = item.members.filter(({ kind }) => kind !== 'Constructor' && kind !== 'ConstructSignature');
  const [, left] = / extends Omit<\w+, ([^>]*)>/.exec(item.excerpt.text) ?? [];
  if (left === undefined) return own;
  const references = item.excerptTokens.map(({ canonicalReference }) => canonicalReference?.toString());
  const from = item.parent.members.find(
    (one) => one !== item && references.includes(one.canonicalReference.toString()),
  );
  if (!from) return own;
  const without = new Set([...left.matchAll(/'(\w+)'/g)].map(([, name]) => name));
  const all = [...own, ...allMembersOf(from).filter(({ displayName }) => !without.has(displayName))];
  return all.sort((one, other) => one.displayName.localeCompare(other.displayName));
}

function sectionOf(item) {
  const { displayName } = item;
  const members = allMembersOf(item);
  return [
    `## ${displayName}`,
    code(item.excerpt.text.replace(/interface \w+ extends Omit<.*>/, `interface ${displayName}`)),
    ...paragraphsOf(item),
    ...(members.length === 0 ? [] : [members.map(rowOf).join('\n')]),
  ].join('\n\n');
}

function rowOf(item) {
  const [text = ''] = paragraphsOf(item);
  return `- \`${item.excerpt.text.replace(/\s+/g, ' ').replace(/;$/, '')}\`${text === '' ? '' : `  \n  ${text.replaceAll('\n', ' ')}`}`;
}

function code(text) {
  return `\`\`\`ts\n${text.replace(/^export (?:declare )?/, '')}\n\`\`\``;
}

/** Its paragraphs, what goes in and out, and examples. */
export function paragraphsOf({ tsdocComment }) {
  if (!tsdocComment) return [];
  const text = tsdocComment
    .emitAsTsdoc()
    .trim()
    .replace(/^\/\*\*|\*\/$/g, '')
    .replace(/^ ?\* ?/gm, '')
    .trim();
  const [summary = '', ...blocks] = text.split(/^(?=@\w+)/m).map((part) => part.trim());
  const said = blocks.map((block) => {
    const [, tag = '', rest = ''] = /^@(\w+)\s*([\s\S]*)$/.exec(block) ?? [];
    const body = rest.replaceAll('\\', '').trim();
    if (tag === 'example') return /^```/.test(body) ? body : `\`\`\`ts\n${body}\n\`\`\``;
    if (tag === 'param') return `- \`${body.replace(/^(\S+) (?:- )?/, '$1`: ')}`;
    if (tag === 'returns') return `Gives ${body}`;
    if (tag === 'throws') return `Throws ${body.replace(/[{}]/g, '`')}`;
    return tag === 'public' ? '' : body;
  });
  return [summary.replaceAll('\\', ''), ...said].filter((part) => part !== '');
}
