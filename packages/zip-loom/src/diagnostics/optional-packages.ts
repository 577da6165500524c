/** Packages that only some projects need: loaded when they are needed, and asked for by name where they are missing. */
import { LoomError } from './errors.ts';
import { packageDiagnostic } from './package-diagnostics.ts';

/**
 * Loads optional packages.
 * @param purpose what needs them, as the subject of a sentence
 * @param packages what has to be installed
 * @throws {LoomError} `missing-package`, where one of them is not installed
 */
export async function fromPackages<Loaded>(
  purpose: string,
  packages: readonly string[],
  load: () => Promise<Loaded>,
): Promise<Loaded> {
  try {
    return await load();
  } catch (error) {
    if (!isMissing(error, packages)) throw error;
    throw new LoomError(packageDiagnostic('missing-package', { purpose, packages }), error);
  }
}

/** Node names the package that it did not find; one of ours may be there and miss another. */
function isMissing(error: unknown, packages: readonly string[]): boolean {
  if (!(error instanceof Error) || !('code' in error) || error.code !== 'ERR_MODULE_NOT_FOUND') return false;
  return packages.some((name) => error.message.includes(`'${name}'`));
}
