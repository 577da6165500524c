/** Escaping, beside the rule written down in the plainest way. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { text } from 'zip-loom/runtime';

const references: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** One character after the other; a lone surrogate is a character of its own. */
function byCharacter(value: string): string {
  return [...value].map((one) => references[one] ?? (one.isWellFormed() ? one : '\ufffd')).join('');
}

test('every text is escaped character by character, however long it is', () => {
  const character = fc.oneof(
    fc.constantFrom('&', '<', '>', '"', "'", '\ud800', '\udbff', '\udc00', '\udfff', '🛶', '\u2028', '\u0000', 'é'),
    fc.constantFrom('tide ', 'a', 'sixteen letters '),
  );
  const value = fc.array(character, { maxLength: 120 }).map((parts) => parts.join(''));
  fc.assert(
    fc.property(value, (one) => expect(text(one)).toBe(byCharacter(one))),
    { numRuns: 2000, seed: 20261123 },
  );
});
