/** A project’s own scripts. */
import { filesBelow, isPassedOver } from 'zip-loom/internal/node';

export function scriptsBelow(folder: string): string[] {
  return filesBelow(folder, isPassedOver).filter((file) => isScript(file) && !file.endsWith('.d.ts'));
}

export function isScript(file: string): boolean {
  return /\.[cm]?[jt]sx?$/.test(file);
}
