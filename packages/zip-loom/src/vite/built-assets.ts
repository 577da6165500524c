/** Files that built templates name: they are put among the other files of the build, and their names are known at its end. */
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';

/** The part of a hook’s context that is used (Rollup, “plugin context”). */
interface Emitter {
  emitFile(file: { type: 'asset'; name: string; originalFileName: string; source: Uint8Array }): string;
  getFileName(reference: string): string;
}

/** What Vite makes something else of, so that only its manifest knows what that is called. */
const worked = /\.(?:[cm]?[jt]sx?|css|less|s[ac]ss|styl|html|json)$/;

const marks = /__zip_loom_asset_[0-9a-f]+__/g;

export class BuiltAssets {
  /** The file that each mark stands for. */
  private readonly files = new Map<string, string>();
  private readonly references = new Map<string, string>();

  /** What stands for the URL of a file until that is known; `undefined` for files that are worked on. */
  readonly markOf = (file: string, path: string): string | undefined => {
    if (worked.test(path)) return undefined;
    const mark = `__zip_loom_asset_${Buffer.from(path).toString('hex')}__`;
    this.files.set(mark, file);
    return mark;
  };

  /** Adds the files that some code names to the build. */
  emit(code: string, context: Emitter): void {
    for (const [mark] of code.matchAll(marks)) {
      const file = this.files.get(mark);
      if (file === undefined || this.references.has(mark)) continue;
      const source = readFileSync(file);
      this.references.set(
        mark,
        context.emitFile({ type: 'asset', name: basename(file), originalFileName: file, source }),
      );
    }
  }

  /** The code with the URLs of its files; `undefined` where it names none. */
  placed(code: string, base: string, context: Emitter): string | undefined {
    if (code.search(marks) === -1) return undefined;
    return code.replace(marks, (mark) => {
      const reference = this.references.get(mark);
      return reference === undefined ? mark : base + context.getFileName(reference);
    });
  }
}
