/** A readable difference: the lines that have changed, and those around them. */
import { diffLines } from 'diff';
import { colours } from '../../console/index.ts';

/** So many lines around a change. */
const around = 2;

/** More changes are not looked at by anybody. */
const mostLines = 60;

export function differenceLines(before: string, after: string): string[] {
  const parts = diffLines(before, after);
  const lines: string[] = [];
  parts.forEach(({ value, added, removed }, at) => {
    const own = value.replace(/\n$/, '').split('\n');
    if (added || removed) {
      lines.push(...own.map((line) => (added ? colours.green(`  + ${line}`) : colours.red(`  - ${line}`))));
      return;
    }
    const [first, last] = [at === 0 ? 0 : around, at === parts.length - 1 ? 0 : around];
    if (own.length <= first + last) lines.push(...own.map((line) => `    ${line}`));
    else {
      lines.push(...own.slice(0, first).map((line) => `    ${line}`), ...(at === 0 ? [] : [colours.dim('    …')]));
      if (last > 0) lines.push(...own.slice(-last).map((line) => `    ${line}`));
    }
  });
  return lines.length <= mostLines
    ? lines
    : [...lines.slice(0, mostLines), colours.dim(`    and ${lines.length - mostLines} lines more`)];
}

/** Markup with a tag on each line: those that stand beside each other stand below each other. */
export function tagLines(html: string): string {
  const text = html.replaceAll('><', '>\n<');
  return text.endsWith('\n') ? text : `${text}\n`;
}

/** Whitespace of any length is one space. */
export function collapsed(html: string): string {
  return html.replace(/\s+/g, ' ');
}

/** And there is none between tags. */
export function withoutSpace(html: string): string {
  return collapsed(html).replace(/> </g, '><').trim();
}
