/** A question about parts that the generator asks of fills. */
import type { Part } from '../parts.ts';

/** Whether a fill shows what it replaces. */
export function holdsBase(parts: Part[]): boolean {
  return parts.some((part) => {
    switch (part.kind) {
      case 'inherited':
        return true;
      case 'if':
        return part.branches.some((branch) => holdsBase(branch.parts));
      case 'for':
        return holdsBase(part.parts) || holdsBase(part.otherwise ?? []);
      case 'await':
        return [part.parts, part.meanwhile ?? [], part.failed?.parts ?? []].some(holdsBase);
      case 'let':
      case 'const':
      case 'region':
        return holdsBase(part.parts);
      case 'slot':
        return holdsBase(part.own);
      case 'call':
        return part.fills.some((fill) => fill.pieces.some((piece) => holdsBase(piece.parts)));
      default:
        return false;
    }
  });
}
