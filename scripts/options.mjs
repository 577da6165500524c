/** Tables of options in `docs/options.md`, made from the types: each stands between two comments that name its interface. */
import { allMembersOf, paragraphsOf } from './reference.mjs';

const place = /(<!-- options of (\w+) in (\S+) -->\n)[\s\S]*?(<!-- end of options -->)/g;

/**
 * @param text the page
 * @param modelOf the entry point of a package’s entry, by its name
 */
export function withOptionTables(text, modelOf) {
  return text.replace(place, (_all, begin, name, entry, end) => `${begin}\n${tableOf(modelOf(entry), name)}\n\n${end}`);
}

function tableOf(point, name) {
  const item = point.members.find((one) => one.displayName === name);
  if (!item) throw new Error(`There is no ${name} in ${point.displayName}.`);
  const rows = allMembersOf(item).map((member) => {
    const [summary = ''] = paragraphsOf(member);
    const { text, standard } = partsOf(summary.replaceAll('\n', ' '));
    const missing = standard ?? (member.isOptional ? 'none' : 'needed');
    return `| \`${member.displayName}\` | ${typeOf(member)} | ${missing} | ${text} |`;
  });
  return ['| option | type | default | |', '|---|---|---|---|', ...rows].join('\n');
}

/** The sentence that begins with “Default:” has a column of its own; without one, there is none. */
function partsOf(summary) {
  const [, before = summary, standard, after = ''] =
    /^(.*?)(?:^|[.;] )[Dd]efault: (.*?)(?:\.(?: (?=[A-Z`])(.*))?)?$/.exec(summary) ?? [];
  const text = [before, after]
    .map((part) => part.trim().replace(/[.;]$/, ''))
    .filter(Boolean)
    .join('. ');
  return { text: cell(text), standard: standard === undefined ? undefined : cell(standard) };
}

function typeOf(member) {
  const text = member.excerpt.text.replace(/\s+/g, ' ').replace(/;$/, '');
  const type =
    member.kind === 'MethodSignature' ? text.replace(/^\w+\??/, '') : text.replace(/^(?:readonly )?\w+\??: /, '');
  const meant = inlined(member, type) ?? type;
  const shown = meant.length <= longest ? meant : type;
  return `\`${cell(shown.replace(/ \| undefined$/, '').replace(/_\d+\b/g, ''))}\``;
}

/** A name alone says little: what it stands for, where that is short. */
function inlined({ excerptTokens, parent }, type) {
  const reference = excerptTokens.find(({ text, kind }) => kind === 'Reference' && text === type)?.canonicalReference;
  const alias = parent.parent.members.find((one) => one.canonicalReference.toString() === reference?.toString());
  if (alias?.kind !== 'TypeAlias') return undefined;
  return alias.typeExcerpt.text.replace(/\s+/g, ' ');
}

const longest = 90;

const cell = (text) => text.replaceAll('|', '\\|');
