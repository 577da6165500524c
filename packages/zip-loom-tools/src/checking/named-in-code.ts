/** Names of templates in a project’s own code, as `put('arrival-row', …)` has them. */
import { readFileSync } from 'node:fs';
import { scriptsBelow } from './scripts.ts';

/** Whether a name stands in quotes in any script below a folder. They are read when the first name is asked for. */
export function namedInCode(folder: string): (name: string) => boolean {
  let texts: string[] | undefined;
  return (name) => {
    texts ??= scriptsBelow(folder).map((file) => readFileSync(file, 'utf8'));
    return texts.some((text) => ["'", '"', '`'].some((quote) => text.includes(quote + name + quote)));
  };
}
