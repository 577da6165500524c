/** A project’s templates as the tools see them: all at once, whatever is wrong with them. */
import { Compilation } from '../compiler/index.ts';
import { baseOf, mountedFiles } from '../kernel/index.ts';
import {
  type AssetFiles,
  allProblems,
  compileOptions,
  type Problems,
  type TemplateStore,
  withBuiltIns,
} from '../loom/index.ts';
import { assetFiles } from './asset-folder.ts';
import { folderStore } from './folder-store.ts';
import type { NodeLoomOptions } from './options.ts';
import { pathOf } from './path-of.ts';

export interface CompiledProject {
  compilation: Compilation;
  assets: AssetFiles | undefined;
  /** Everything that is wrong; found out when it is asked for. */
  readonly problems: Problems;
}

export interface CompileSettings {
  /** Texts of files that somebody is writing, by their paths, in place of those on the disk. */
  open?: ReadonlyMap<string, string>;
  /** Told why assets cannot be read; the project is then taken as one without. Default: the error is thrown. */
  onUnreadableAssets?: (error: unknown) => void;
}

/**
 * @param previous the state before, made with the same options: what has not changed since is not read again
 * @throws {LoomError} when the templates’ folder or the assets cannot be read
 */
export function compileProject(
  { assets: given, templates = 'templates', uploads: _uploads, paths: _paths, ...options }: NodeLoomOptions,
  previous?: Compilation,
  { open = new Map(), onUnreadableAssets }: CompileSettings = {},
): CompiledProject {
  const assets = mountedFiles(
    given === undefined ? undefined : readAssets(given, onUnreadableAssets),
    baseOf(options.base),
  );
  const files = withBuiltIns(withOpen(folderStore(pathOf(templates)).read(), open));
  const compilation = new Compilation(files, { ...compileOptions(options), assets }, previous);
  return {
    compilation,
    assets,
    get problems() {
      return allProblems(compilation);
    },
  };
}

function readAssets(
  given: NonNullable<NodeLoomOptions['assets']>,
  onUnreadable: CompileSettings['onUnreadableAssets'],
): AssetFiles | undefined {
  try {
    return assetFiles(given)();
  } catch (error) {
    if (!onUnreadable) throw error;
    onUnreadable(error);
    return undefined;
  }
}

/** Files as they are in an editor. */
function withOpen(files: ReturnType<TemplateStore['read']>, open: ReadonlyMap<string, string>): typeof files {
  if (open.size === 0) return files;
  return new Map(
    [...files].map(([path, file]) => {
      const source = open.get(pathOf(file.file));
      return [path, source === undefined ? file : { ...file, source }];
    }),
  );
}
