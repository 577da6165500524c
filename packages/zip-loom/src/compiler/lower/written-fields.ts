/** What an author writes of a bound form by hand, so that the rest can be filled in. */
import {
  attributeOf,
  clauseOf,
  type Element,
  isCallName,
  type Substitution,
  type Text,
  walk,
} from '../../language/index.ts';

/** What is written inside of an element. */
interface Written {
  /** Names of fields, with indices left out. */
  names: ReadonlySet<string>;
  /** Whether the messages of the whole form are written, or are to come with an earlier call. */
  showsSummary: boolean;
}

const controls: ReadonlySet<string> = new Set(['input', 'select', 'textarea']);

/** @param call the call that fills in the rest */
export function fieldsWritten(bound: Element, call: Element): Written {
  const names = new Set<string>();
  let showsSummary = false;
  let isFirst = true;
  walk(bound.children, {
    element(element) {
      const name = attributeOf(element, 'name');
      if (name?.value && (controls.has(element.name) || isCallName(element.name))) names.add(patternOf(name.value));
      showsSummary ||= clauseOf(element, 'errors')?.path.length === 0;
      if (element === call && !isFirst) showsSummary = true;
      if (element.name === call.name) isFirst = false;
      return undefined;
    },
  });
  return { names, showsSummary };
}

/** `crew[${i}].name` → `crew[].name`. */
function patternOf(value: ReadonlyArray<Text | Substitution>): string {
  return value.map((part) => (part.kind === 'text' ? part.text : '')).join('');
}
