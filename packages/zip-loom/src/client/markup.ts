/** Text → nodes, under Trusted Types too. Scripts in the result never run. */

interface Policy {
  createHTML(text: string): string;
  createScript(text: string): string;
  createScriptURL(url: string): string;
}

interface TrustedTypes {
  createPolicy(name: string, rules: Policy): Policy;
  getAttributeType(tag: string, attribute: string): string | null;
}

const types = (globalThis as { trustedTypes?: TrustedTypes }).trustedTypes;
const asIs = (text: string) => text;

let policy: Policy | undefined;

/** One policy for all markup of the server’s (Trusted Types §2.3), and for scripts that the server’s own pages name. */
function trust(): Policy {
  const rules: Policy = { createHTML: asIs, createScript: asIs, createScriptURL: asIs };
  policy ??= types?.createPolicy('zip-loom', rules) ?? rules;
  return policy;
}

/** An attribute’s value for an element whose kind wants a trusted one; nothing where any will do. */
export function trusted(element: Element, name: string, value: string): string | undefined {
  const type = types?.getAttributeType(element.localName, name);
  return type ? trust()[`create${type.slice(7)}` as keyof Policy](value) : undefined;
}

/** The server’s markup for what wants it trusted. */
export function markupFor(text: string): string {
  return trust().createHTML(text);
}

/** A whole document. Templates keep what would be lost elsewhere, as a lone `<tr>`. */
export function parseDocument(text: string): Document {
  return asWithScripts(new DOMParser().parseFromString(markupFor(text), 'text/html'));
}

/** A parser without scripts reads what is meant for browsers without scripts (HTML §4.12.2); this undoes it. */
export function asWithScripts(parsed: Document): Document {
  const roots = [parsed, ...[...parsed.querySelectorAll('template')].map(({ content }) => content)];
  for (const root of roots)
    for (const element of root.querySelectorAll('noscript')) element.textContent = element.innerHTML;
  return parsed;
}

/** A script as if the page had come with it: those of a parsed answer never run (HTML §4.12.1.1). */
export function freshScript(element: Element): Element {
  if (!element.hasAttribute('src')) return element.cloneNode(true) as Element;
  const made = document.createElement(element.localName);
  for (const { name, value } of element.attributes) made.setAttribute(name, trusted(element, name, value) ?? value);
  return made;
}

/** Gives an element of the server’s, from where no visitor can write, the nonce that the policy of this page asks for. */
export function withNonce<Made extends Element>(element: Made): Made {
  const nonce = document.querySelector<HTMLElement>('script[nonce], style[nonce], link[nonce]')?.nonce;
  if (nonce && element.localName !== 'meta') element.setAttribute('nonce', nonce);
  return element;
}
