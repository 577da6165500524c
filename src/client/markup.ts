/** Text → nodes, under Trusted Types too. Scripts in the result never run. */

interface Policy {
  createHTML(text: string): string;
  createScriptURL(url: string): string;
}

let policy: Policy | undefined;

/** One policy for all markup of the server’s (Trusted Types §2.3), and for scripts that the server’s own pages name. */
export function trust(): Policy {
  const types = (globalThis as { trustedTypes?: { createPolicy(name: string, rules: Policy): Policy } }).trustedTypes;
  const rules: Policy = { createHTML: (markup) => markup, createScriptURL: (url) => url };
  policy ??= types?.createPolicy('zip-loom', rules) ?? rules;
  return policy;
}

/** A whole document. Templates keep what would be lost elsewhere, as a lone `<tr>`. */
export function parseDocument(text: string): Document {
  return new DOMParser().parseFromString(trust().createHTML(text), 'text/html');
}
