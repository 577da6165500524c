/** The reference of one entry, from its doc comments. */
import { ApiModel } from '@microsoft/api-extractor-model';

/** Functions first: they are what somebody calls. */
const order = ['Function', 'Class', 'Interface', 'TypeAlias', 'Variable', 'Enum', 'Namespace'];

/**
 * @param model the file of the model of its exports
 * @returns the page, and the functions that have no example
 */
export function referencePage(entry, model) {
  const [point] = new ApiModel().loadPackage(model).entryPoints;
  const members = [...point.members].sort(
    (one, other) =>
      order.indexOf(one.kind) - order.indexOf(other.kind) || one.displayName.localeCompare(other.displayName),
  );
  const names = [...new Set(members.map(({ displayName }) => displayName))];
  const index = names.map((name) => `[\`${name}\`](#${name.toLowerCase()})`);
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

function sectionOf(item) {
  const { displayName } = item;
  const members = item.members.filter(({ kind }) => kind !== 'Constructor' && kind !== 'ConstructSignature');
  return [
    `## ${displayName}`,
    code(item.excerpt.text),
    ...comment(item),
    ...(members.length === 0 ? [] : [members.map(rowOf).join('\n')]),
  ].join('\n\n');
}

function rowOf(item) {
  const [text = ''] = comment(item);
  return `- \`${item.excerpt.text.replace(/\s+/g, ' ').replace(/;$/, '')}\`${text === '' ? '' : `  \n  ${text.replaceAll('\n', ' ')}`}`;
}

function code(text) {
  return `\`\`\`ts\n${text.replace(/^export (?:declare )?/, '')}\n\`\`\``;
}

/** Its paragraphs, what goes in and out, and examples. */
function comment({ tsdocComment }) {
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
