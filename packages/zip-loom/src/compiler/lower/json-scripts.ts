/** `<script type="application/json">` and the like: values as JSON, or as part of a JSON string (RFC 8259 §7). */

import { attributeOf, type Element, fixedValue, keyword } from '../../language/index.ts';
import { js, runtime } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import type { Part } from '../parts.ts';
import type { Place } from './place.ts';

/** The content of such a script. With each substitution read as 0 it must be JSON, so that its structure is fixed. */
export function lowerJSONScript(element: Element, at: Place): Part[] {
  const parts: Part[] = [];
  const isCode = isImportMap(element);
  let standIn = '';
  let inString = false;
  let holdsValue = false;
  for (const child of element.children) {
    if (child.kind === 'text') {
      parts.push({ kind: 'static', text: child.text });
      inString = endsInString(child.text, inString);
      standIn += child.text;
    } else if (child.kind === 'substitution') {
      holdsValue = true;
      standIn += '0';
      const { syntax } = child.expression;
      if (
        !inString &&
        syntax.type === 'CallExpression' &&
        syntax.callee.type === 'Identifier' &&
        syntax.callee.name === 'json'
      )
        at.whole.report(child, templateDiagnostic('repeated-json'));
      const name = isCode ? 'trustedJSONValue' : inString ? 'jsonStringPart' : 'jsonValue';
      if (isCode && inString)
        at.whole.report(child, templateDiagnostic('refused-code-url', { what: 'a URL of an import map' }));
      parts.push({ kind: 'value', code: js`${runtime(name)}(${child.expression})` });
    }
  }
  if (holdsValue) checkJSON(standIn, element, at);
  return parts;
}

/** Whether a script says where modules are loaded from (HTML §4.12.1.1, “importmap”). */
export function isImportMap(element: Element): boolean {
  return element.name === 'script' && keyword(fixedValue(attributeOf(element, 'type')) ?? '') === 'importmap';
}

function checkJSON(text: string, element: Element, at: Place): void {
  try {
    JSON.parse(text);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    at.whole.report(element.startTag, templateDiagnostic('invalid-json-script', { reason: error.message }));
  }
}

/** Whether a JSON string is open after the text. */
function endsInString(text: string, open: boolean): boolean {
  let inString = open;
  for (let at = 0; at < text.length; at++) {
    if (text[at] === '"') inString = !inString;
    else if (inString && text[at] === '\\') at++;
  }
  return inString;
}
