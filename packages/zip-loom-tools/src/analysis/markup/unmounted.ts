/** URLs in expressions that begin at the root of the host, where the site is mounted below a path. */
import { argumentName, calledBy, ownerOf, type Template, type TemplateSet } from 'zip-loom/internal/compiler';
import { placed, type Span, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { attributeKind, mountedURL } from 'zip-loom/internal/kernel';
import type { Attribute, Element, TemplateNode } from 'zip-loom/internal/language';
import { markupDiagnostic } from './diagnostics.ts';
import { parameterScope, type Scope, scopeIn, type Written, writtenStarts } from './written-values.ts';

/** A value that is a whole URL, or begins one, in a template. */
interface Place {
  template: Template;
  written: Written;
}

/** An argument of a call: what it can begin with. */
interface Argument extends Place {
  called: Template;
  name: string;
}

const urlKinds = new Set(['url', 'image-url', 'code-url', 'drawing-url']);

/** @param base where the site is mounted; nothing is found at the root */
export function unmountedURLs(templates: readonly Template[], set: TemplateSet, base: string): TemplateDiagnostic[] {
  if (base === '') return [];
  const urls: Place[] = [];
  const passed: Argument[] = [];
  for (const template of templates) collect(template, set, urls, passed);
  const found = new Map<string, TemplateDiagnostic>();
  const asked = new Set<string>();
  // Arguments that end up as URLs are written by callers, and perhaps by theirs.
  for (let places = urls; places.length > 0; ) {
    const next: Place[] = [];
    for (const { template, written } of places) {
      if (written.kind === 'text') {
        report(template, written);
      } else if (!asked.has(`${template.id} ${written.name}`)) {
        asked.add(`${template.id} ${written.name}`);
        for (const one of passed) if (one.called === template && one.name === written.name) next.push(one);
        const parameter = template.parameters.find(({ name }) => name === written.name);
        if (parameter?.kind === 'default')
          for (const start of writtenStarts(parameter.fallback.syntax, parameterScope(template.parameters)))
            next.push({ template, written: start });
      }
    }
    places = next;
  }
  return [...found.values()];

  function report({ tree: { file } }: Template, { text, start, end }: Span & { text: string }): void {
    if (mountedURL(text, base) === text) return;
    found.set(`${file} ${start}`, placed(markupDiagnostic('unmounted-url', { url: text, base }), file, { start, end }));
  }
}

/** The URLs of a template that begin with a value, and the arguments that it gives. */
function collect(template: Template, set: TemplateSet, urls: Place[], passed: Argument[]): void {
  const visit = (nodes: readonly TemplateNode[], scope: Scope): void => {
    for (const node of nodes) if (node.kind === 'element') visitElement(node, scope);
  };
  const visitElement = (element: Element, outer: Scope) => {
    const scope = scopeIn(element, outer);
    const called = calledBy(element, template, set);
    for (const item of element.items) {
      if (item.kind === 'region')
        for (const setting of item.items)
          if (setting.kind === 'attribute' && setting.name === 'from')
            for (const written of startOf(setting, scope)) urls.push({ template, written });
      if (item.kind !== 'attribute') continue;
      if (called) {
        for (const written of startOf(item, scope, true))
          passed.push({ template, called, name: argumentName(item.name), written });
      } else if (urlKinds.has(attributeKind(ownerOf(element), item.name))) {
        for (const written of startOf(item, scope)) urls.push({ template, written });
      }
    }
    visit(element.children, scope);
  };
  const whole = parameterScope(template.parameters);
  visit(template.body, whole);
  const layout = set.layoutOf(template);
  for (const clause of template.definition?.items ?? [])
    if (layout && clause.kind === 'layout')
      for (const item of clause.items)
        if (item.kind === 'attribute')
          for (const written of startOf(item, whole, true))
            passed.push({ template, called: layout, name: argumentName(item.name), written });
}

/** Texts and parameters that a value can begin with. @param isArgument whether fixed text counts: in a URL it is mounted already */
function startOf({ value }: Attribute, scope: Scope, isArgument = false): Written[] {
  const [first] = value ?? [];
  if (first?.kind === 'substitution') return writtenStarts(first.expression.syntax, scope);
  return first && isArgument ? [{ kind: 'text', text: first.text, start: first.start, end: first.end }] : [];
}
