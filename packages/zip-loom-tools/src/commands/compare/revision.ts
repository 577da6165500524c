/** The templates of a revision of git. */
import { spawnSync } from 'node:child_process';
import { relative, resolve } from 'node:path';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { urlPath } from 'zip-loom/internal/node';
import { commandDiagnostic } from '../../console/index.ts';

/**
 * By their paths below the folder of templates.
 * @throws {LoomError} where there is no repository, or no such revision
 */
export function templatesOf(revision: string, templates: string): Record<string, string> {
  const fail = (reason: string) => new LoomError(commandDiagnostic('unknown-revision', { revision, reason }));
  const git = (args: readonly string[], input?: string): Buffer => {
    const ran = spawnSync('git', args, {
      cwd: templates,
      maxBuffer: 1 << 30,
      ...(input === undefined ? {} : { input }),
    });
    if (ran.error) throw fail('git is not installed');
    if (ran.status !== 0)
      throw fail(
        String(ran.stderr)
          .trim()
          .split('\n')
          .at(-1)!
          .replace(/^fatal: /, '')
          .replace(/\.$/, ''),
      );
    return ran.stdout;
  };
  // A revision is no option.
  if (revision.startsWith('-')) throw fail('it begins with a hyphen');
  const root = resolve(String(git(['rev-parse', '--show-toplevel'])).trim());
  const below = urlPath(relative(root, templates));
  const entries = String(git(['ls-tree', '-r', '-z', '--full-tree', revision, '--', below === '' ? '.' : `${below}/`]))
    .split('\0')
    .flatMap((line) => {
      const [, id, path] = /^\d+ blob ([0-9a-f]+)\t(.*)$/s.exec(line) ?? [];
      return id !== undefined && path!.endsWith('.html')
        ? [{ id, path: path!.slice(below === '' ? 0 : below.length + 1) }]
        : [];
    });
  if (entries.length === 0) throw fail(`it has no template in ${below || 'its root'}`);
  const texts = blobs(git(['cat-file', '--batch'], entries.map(({ id }) => `${id}\n`).join('')));
  return Object.fromEntries(entries.map(({ path }, at) => [path, texts[at]!]));
}

/** What `git cat-file --batch` prints: a line with the length, the bytes, a line end, and so on. */
function blobs(output: Buffer): string[] {
  const texts: string[] = [];
  for (let at = 0; at < output.length; ) {
    const end = output.indexOf('\n', at);
    const length = Number(output.toString('utf8', at, end).split(' ')[2]);
    texts.push(output.toString('utf8', end + 1, end + 1 + length));
    at = end + length + 2;
  }
  return texts;
}
