/** The `tsconfig.json` files with which TypeScript looks at the modules of templates. */
import { existsSync } from 'node:fs';
import { join, parse } from 'node:path';
import { urlPath } from 'zip-loom/internal/node';
import type { TypedModule } from '../analysis/index.ts';
import { isSince, type ProjectCompiler } from './project-compiler.ts';

export interface TypeSettings {
  /** Where the modules are. */
  cache: string;
  /** The project’s. */
  folder: string;
  compiler: ProjectCompiler;
}

/** The project’s own settings, but for what modules of templates need. */
export function typeSettings(modules: readonly TypedModule[], settings: TypeSettings): string {
  const base = join(settings.folder, 'tsconfig.json');
  const hasBase = existsSync(base);
  return JSON.stringify({
    ...(hasBase ? { extends: urlPath(base) } : {}),
    compilerOptions: { ...(hasBase ? {} : plainOptions), ...ownOptions(settings) },
    files: filesOf(modules),
  });
}

/** Settings for modules with questions, beside the others. */
export function questionSettings(questions: readonly TypedModule[]): string {
  return JSON.stringify({
    extends: './tsconfig.json',
    // A long list of names is to be seen whole.
    compilerOptions: { incremental: false, tsBuildInfoFile: null, noErrorTruncation: true },
    files: filesOf(questions),
  });
}

function filesOf(modules: readonly TypedModule[]): string[] {
  return modules.map(({ path }) => `./${path}`);
}

/** For a project without a `tsconfig.json`. */
const plainOptions = {
  strict: true,
  target: 'es2022',
  module: 'esnext',
  moduleResolution: 'bundler',
  lib: ['es2023', 'dom', 'dom.iterable'],
  types: [],
};

/** What modules of templates need, whatever the project asks of its own. */
function ownOptions({ cache, compiler }: TypeSettings) {
  return {
    noEmit: true,
    composite: false,
    declaration: false,
    declarationMap: false,
    emitDeclarationOnly: false,
    // Before, nobody knows this one.
    ...(isSince(compiler, '5.5') ? { isolatedDeclarations: false } : {}),
    incremental: true,
    tsBuildInfoFile: urlPath(join(cache, 'tsconfig.tsbuildinfo')),
    rootDir: urlPath(parse(cache).root),
    allowImportingTsExtensions: true,
    skipLibCheck: true,
    // A template is written for what it prints.
    noImplicitAny: false,
    noImplicitReturns: false,
    noUnusedLocals: false,
    noUnusedParameters: false,
    noPropertyAccessFromIndexSignature: false,
    allowUnreachableCode: true,
  };
}
