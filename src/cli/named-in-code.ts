/** Names of templates in a project’s own code, as `put('arrival-row', …)` has them. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Folders that hold what others wrote, or what was built. */
const passedOver = new Set(['node_modules', 'dist', 'build', 'coverage']);

/** Whether a name stands in quotes in any script below a folder. They are read when the first name is asked for. */
export function namedInCode(folder: string): (name: string) => boolean {
  let texts: string[] | undefined;
  return (name) => {
    texts ??= scriptsBelow(folder).map((file) => readFileSync(file, 'utf8'));
    return texts.some((text) => ["'", '"', '`'].some((quote) => text.includes(quote + name + quote)));
  };
}

function scriptsBelow(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return passedOver.has(entry.name) || entry.name.startsWith('.') ? [] : scriptsBelow(path);
    return /\.[cm]?[jt]sx?$/.test(entry.name) && !entry.name.endsWith('.d.ts') ? [path] : [];
  });
}
