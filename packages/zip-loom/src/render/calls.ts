/** What calls of templates, slots and printed values use besides escaping. */
import { RenderError } from '../diagnostics/index.ts';
import type { Fill, Output } from '../kernel/index.ts';
import { renderDiagnostic } from './diagnostics.ts';

/** How much has been written, in code units: the same before and after something that printed nothing. */
export function written(out: Output): number {
  return out.taken + out.s.length;
}

/** The fill of a slot that two templates fill: `upper`, which is further from the base, may show `lower` as its base. */
export function over(upper: Fill | undefined, lower: Fill): Fill {
  if (!upper) return lower;
  return (values, base) => upper(values, () => lower(values, base));
}

/**
 * Counts one more level of templates that call themselves.
 * @throws {RenderError} at the configured depth
 */
export function descend(out: Output): void {
  if (++out.depth > out.settings.maximumDepth)
    throw new RenderError(renderDiagnostic('nested-too-deeply', { limit: out.settings.maximumDepth }));
}
