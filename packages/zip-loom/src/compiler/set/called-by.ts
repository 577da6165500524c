/** Which template an element calls. */
import { type Element, isCallName } from '../../language/index.ts';
import type { Template } from './template.ts';
import type { TemplateSet } from './template-set.ts';

/** `undefined` for what is HTML’s, the browser’s own, or calls nothing that is known. */
export function calledBy({ name }: Element, caller: Template, set: TemplateSet): Template | undefined {
  return isCallName(name) && !set.isBrowserElement(name) ? set.partials.called(name, caller) : undefined;
}
