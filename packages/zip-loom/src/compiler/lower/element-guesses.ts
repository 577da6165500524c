/** Elements that HTML does not have, and what is meant by them: they would be printed as they are. */
import { guessTable } from '../../diagnostics/index.ts';
import { type Element, nameSpan } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { hyphenated } from '../set/hyphenated.ts';
import type { Place } from './place.ts';

const call = 'A template is called by its name as an element: <berth-card berth=${berth}></berth-card>.';
const slot = 'Write <slot name="sidebar"></slot> in the layout, and slot="sidebar" on what fills it.';
const clause = 'Write a clause on an element, or on a <template> around several: (if …), (for item of items).';

/** Words that people try, and the hint for each. */
const guesses: ReadonlyMap<string, string> = guessTable(
  [call, 'include', 'partial', 'component', 'render', 'insert', 'call'],
  ['Write <meta (layout site-layout)> at the start of the file.', 'extends', 'extend', 'layout'],
  [slot, 'block', 'yield', 'outlet', 'children', 'fill'],
  [clause, 'if', 'else', 'elseif', 'for', 'foreach', 'each', 'unless', 'switch', 'case', 'fragment', 'await'],
);

/** Reports an element that is mostly meant as something else. One whose name is that of a template is an error. */
export function reportElementGuess(element: Element, at: Place): void {
  const { name, namespace } = element;
  const { set, template, report } = at.whole;
  const span = nameSpan(element);
  const hint = namespace === 'html' ? guesses.get(name) : undefined;
  if (hint !== undefined) report(span, templateDiagnostic('unknown-element', { name, hint }));
  const written = template.tree.source.slice(span.start, span.end);
  if (namespace !== 'html' || !/^[A-Z][a-z0-9]*[a-z0-9][A-Z]/.test(written)) return;
  const meant = hyphenated(written);
  if (set.partials.called(meant, template)) report(span, templateDiagnostic('refused-element', { written, meant }));
  else report(span, templateDiagnostic('unknown-element', { name: written, hint: capitals(meant) }));
}

const capitals = (meant: string) =>
  `Browsers make no difference of capital letters. A template is called by a name with a hyphen: <${meant}>.`;
