/** Buttons that change a form instead of sending it off, the box for all rows, and the button that Enter presses in spite of them. */
import { attributeOf, type Clause, clausesOf, type Element, fixedValue, keyword, walk } from '../../language/index.ts';
import { type Code, commaList, js, literal, out, propertyName, runtime, sum } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { type Part, print } from '../parts.ts';
import { joinedText } from './attribute-text.ts';
import { reportUnbound } from './bindings.ts';
import { type Place, withCompletion } from './place.ts';
import { urlCode } from './url-places.ts';

type EditClause = Extract<Clause, { kind: 'add' | 'remove' | 'refresh' | 'back' }>;

/** Attributes that the clause writes itself. */
const ownAttributes = ['type', 'name', 'value'] as const;

/** `(add crew)`, `(remove crew ${i})`, `(refresh)`, `(back)`. */
export function lowerEdit(clause: EditClause, element: Element, at: Place, inside: (inner: Place) => Part[]): Part[] {
  const { bound } = at;
  if (!bound) return reportUnbound(clause, at);
  reportOwn(element, ownAttributes, clause, at);
  const form = attributeOf(element, 'form');
  const isWritten = attributeOf(element, 'disabled') !== undefined;
  const given = [
    ...(form || isWritten ? [form ? joinedText(form.value ?? []) : js`undefined`] : []),
    ...(isWritten ? [js`true`] : []),
  ];
  const code = js`${runtime('editButton')}(${commaList([js`${out}`, js`${bound}`, editCode(clause), ...given])})`;
  return inside(withCompletion(at, element, { attributes: print(code) }));
}

/** What the button says when it is pressed. */
function editCode(clause: EditClause): Code {
  switch (clause.kind) {
    case 'add':
      return sum([js`${literal('add ')}`, joinedText(clause.list)]);
    case 'remove': {
      const list = [js`${literal('remove ')}`, joinedText(clause.list)];
      return clause.index.length === 0
        ? sum(list)
        : sum([...list, js`${literal('[')}`, joinedText(clause.index), js`${literal(']')}`]);
    }
    case 'refresh':
    case 'back':
      return js`${literal(clause.kind)}`;
  }
}

/** `(select-all boats[].chosen)`: nothing on the server says that it is ticked, for without scripts it would stay so. */
export function lowerSelectAll(
  clause: Extract<Clause, { kind: 'select-all' }>,
  element: Element,
  at: Place,
  inside: (inner: Place) => Part[],
): Part[] {
  if (!at.bound) return reportUnbound(clause, at);
  reportOwn(element, ['name', 'value'], clause, at);
  const code = js`${runtime('allBox')}(${at.bound}, ${joinedText(clause.boxes)})`;
  return inside(withCompletion(at, element, { attributes: print(code) }));
}

function reportOwn(element: Element, names: readonly string[], clause: Clause, at: Place): void {
  for (const name of names) {
    const attribute = attributeOf(element, name);
    if (!attribute || (name === 'type' && keyword(fixedValue(attribute) ?? '') === 'submit')) continue;
    at.whole.report(attribute, templateDiagnostic('refused-button-attribute', { name, clause: clause.kind }));
  }
}

function isEdit(element: Element): boolean {
  return clausesOf(element).some(
    ({ kind }) => kind === 'add' || kind === 'remove' || kind === 'refresh' || kind === 'back',
  );
}

/** Whether a form may hold such buttons: its own, or those of a template that it calls. */
export function mayHoldEdits(form: Element, { bound, whole: { set } }: Place): boolean {
  let isInside = false;
  walk(form.children, {
    element(inner) {
      isInside ||= isEdit(inner);
      return undefined;
    },
  });
  return isInside || (bound !== undefined && set.hasEdits);
}

/** Attributes of a button that decide what is sent, but for where to. */
const deciding = ['name', 'value', 'formmethod', 'formenctype', 'formtarget', 'formnovalidate'];

/** A button that sends its form off: the first of them is pressed by Enter (HTML §4.10.21.2). */
export function noteFirstSubmitter(element: Element, at: Place): Part[] {
  if (!at.whole.set.hasEdits || !isOrdinarySubmitter(element)) return [];
  const written = deciding.flatMap((name): Code[] => {
    const attribute = attributeOf(element, name);
    if (!attribute) return [];
    return [js`${propertyName(name)}: ${attribute.value ? joinedText(attribute.value) : js`true`}`];
  });
  const action = urlCode(attributeOf(element, 'formaction'));
  if (action) written.push(js`formaction: ${action}`);
  const form = attributeOf(element, 'form');
  const id = form ? joinedText(form.value ?? []) : js`undefined`;
  return print(
    js`${runtime('noteFirstSubmitter')}(${out}, ${id}, ${written.length === 0 ? js`{}` : js`{ ${commaList(written)} }`})`,
  );
}

function isOrdinarySubmitter(element: Element): boolean {
  const type = keyword(fixedValue(attributeOf(element, 'type')) ?? (element.name === 'button' ? 'submit' : 'text'));
  return (type === 'submit' || type === 'image') && !isEdit(element);
}
