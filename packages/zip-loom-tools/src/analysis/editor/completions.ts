/** What can be written at a place. */
import {
  argumentName,
  attributeName,
  builtIns,
  type Compilation,
  isBuiltIn,
  takesOf,
} from 'zip-loom/internal/compiler';
import { clauseForms, type Parameter } from 'zip-loom/internal/language';
import { type Cursor, cursorAt } from './cursor.ts';
import { callable, elementsAround, filledBy, namesAround, regionNames, templateAt, typeInWords } from './places.ts';

export interface Completion {
  label: string;
  kind: 'template' | 'parameter' | 'clause' | 'slot' | 'name' | 'helper' | 'file' | 'region';
  /** In a line. */
  detail: string;
  /** What is written in place of the word at the cursor. */
  text: string;
  /** Where that word begins. */
  start: number;
}

/**
 * What can be written at an offset of a file.
 * @param source the file’s text as it is now; that of the compilation may be a little older
 */
export function completionsAt(compilation: Compilation, file: string, source: string, offset: number): Completion[] {
  const cursor = cursorAt(source, offset);
  const tree = compilation.treeOf(file);
  if (!cursor || !tree) return [];
  const { set } = compilation;
  const caller = templateAt(set, tree, offset);
  const found = proposals(cursor);
  return found.map((one) => ({ ...one, start: cursor.start }));

  function proposals(at: Cursor): Array<Omit<Completion, 'start'>> {
    switch (at.kind) {
      case 'tag':
        return callable(set, caller)
          .filter(({ name }) => name.includes('-') && !name.startsWith('look-'))
          .map((template) => ({
            label: template.name,
            kind: 'template',
            detail: takesOf(template),
            text: template.name,
          }));
      case 'attribute':
        return argumentsOf(at.tag);
      case 'clause':
        return Object.entries(clauseForms).map(([label, form]) => ({
          label,
          kind: 'clause',
          detail: form,
          text: label,
        }));
      case 'clause-name':
        if (at.clause === 'region') return regions();
        return at.clause === 'layout' ? layouts() : [];
      case 'value':
        return valuesOf(at.tag, at.attribute);
      case 'name':
        return names();
      case 'field':
        return [];
    }
  }

  function argumentsOf(tag: string): Array<Omit<Completion, 'start'>> {
    const called = caller && set.partials.called(tag, caller);
    if (!called) return [];
    const element = elementsAround(tree!, offset).at(-1);
    const given = new Set(
      element?.name === tag
        ? element.items.flatMap((item) =>
            item.kind === 'attribute' && item.nameSpan.end !== offset ? [argumentName(item.name)] : [],
          )
        : [],
    );
    const slot = { label: 'slot', kind: 'parameter', detail: 'the slot that this fills', text: 'slot=""' } as const;
    const own = called.parameters.filter(({ kind, name }) => kind !== 'rest' && !given.has(name));
    return [
      ...own.map((parameter) => ({
        label: attributeName(parameter.name),
        kind: 'parameter' as const,
        detail: typeInWords(parameter),
        text: argumentText(parameter),
      })),
      ...(given.has('slot') ? [] : [slot]),
    ];
  }

  function valuesOf(tag: string, attribute: string): Array<Omit<Completion, 'start'>> {
    if (attribute === 'slot' && caller) {
      const owner = filledBy(elementsAround(tree!, offset), caller, set);
      return owner
        ? [...set.openSlots(owner)]
            .filter((name) => name !== 'default')
            .map((name) => ({ label: name, kind: 'slot', detail: `a slot of ${owner.name}`, text: name }))
        : [];
    }
    if (!/^(?:src|href|poster|srcset)$/.test(attribute) || tag === 'a') return [];
    return [...compilation.assets.keys()].map((path) => ({
      label: path,
      kind: 'file',
      detail: 'a file of the project',
      text: path,
    }));
  }

  function layouts(): Array<Omit<Completion, 'start'>> {
    const inUse = new Set(set.templates.map((template) => set.layoutOf(template)));
    const known = callable(set, caller).filter(
      (one) => (inUse.has(one) || /(?:^|\/)layouts\//.test(one.id)) && !isBuiltIn(one),
    );
    return known.map((template) => ({
      label: template.name,
      kind: 'template',
      detail: takesOf(template),
      text: template.name,
    }));
  }

  /** Regions have one name in all pages that show them. */
  function regions(): Array<Omit<Completion, 'start'>> {
    return [...regionNames(set)].map(([label, { name }]) => ({
      label,
      kind: 'region',
      detail: `a region of ${name}`,
      text: label,
    }));
  }

  function names(): Array<Omit<Completion, 'start'>> {
    const bound = caller ? namesAround(caller, tree!, offset) : [];
    return [
      ...bound.toReversed().map(({ name, by }) => ({ label: name, kind: 'name' as const, detail: by, text: name })),
      ...builtIns.map((name) => ({
        label: name,
        kind: 'name' as const,
        detail: 'in every template',
        text: name,
      })),
      ...[...compilation.helpers]
        .sort()
        .map((name) => ({ label: name, kind: 'helper' as const, detail: 'a helper', text: name })),
    ];
  }
}

/** A boolean is given by its name alone. */
function argumentText(parameter: Parameter): string {
  const isBoolean =
    parameter.type === 'boolean' || (parameter.kind === 'default' && /^(?:true|false)$/.test(parameter.fallback.code));
  return isBoolean ? attributeName(parameter.name) : `${attributeName(parameter.name)}=\${}`;
}
