/** A folder that holds the modules of templates, and nothing else that is TypeScript. */
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { urlPath } from 'zip-loom/internal/node';
import type { TypedModule } from '../analysis/index.ts';

export class ModuleFolder {
  readonly path: string;
  /** The texts of its files, by their paths in it; unread where nobody has asked yet. */
  private texts = new Map<string, string | undefined>();
  private readonly changed = new Set<string>();

  constructor(path: string) {
    this.path = path;
  }

  /** Writes what differs, so that the compiler finds the rest as it was, and removes what no template has any more. */
  write(modules: readonly TypedModule[]): void {
    // Whoever clears caches may do so at any time.
    if (!existsSync(this.path)) this.texts = new Map();
    if (this.texts.size === 0) this.look();
    const wanted = new Set(modules.map(({ path }) => path));
    for (const path of [...this.texts.keys()]) if (path.endsWith('.ts') && !wanted.has(path)) this.remove(path);
    for (const { path, text } of modules) this.put(path, text);
  }

  put(path: string, text: string): void {
    if (this.read(path) === text) return;
    const file = join(this.path, path);
    // Most folders are there.
    if (!this.texts.has(path)) mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, text);
    this.texts.set(path, text);
    this.changed.add(file);
  }

  /** The paths of files that have changed since this was last asked. */
  changes(): string[] {
    const files = [...this.changed];
    this.changed.clear();
    return files;
  }

  remove(path: string): void {
    const file = join(this.path, path);
    rmSync(file, { force: true });
    this.changed.add(file);
    this.texts.delete(path);
  }

  private look(): void {
    mkdirSync(this.path, { recursive: true });
    for (const entry of readdirSync(this.path, { recursive: true, withFileTypes: true }))
      if (entry.isFile()) this.texts.set(urlPath(relative(this.path, join(entry.parentPath, entry.name))), undefined);
    this.put('.gitignore', '*\n');
  }

  private read(path: string): string | undefined {
    if (!this.texts.has(path)) return undefined;
    const text = this.texts.get(path) ?? readFileSync(join(this.path, path), 'utf8');
    this.texts.set(path, text);
    return text;
  }
}
