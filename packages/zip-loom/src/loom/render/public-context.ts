/** What templates see as `context` where what they write is for everybody. */
import { RenderError } from '../../diagnostics/index.ts';
import type { LoomContext } from '../../kernel/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';
import { ofEverybody } from './plain-context.ts';

/** What is the same for all who read. */
const shared: ReadonlySet<string | symbol> = new Set(['locale', 'timeZone', 'nonce']);

/** A context of which only the place can be read: whatever else is read is refused. */
export function publicContext(locale: string, timeZone: string): LoomContext {
  return new Proxy<LoomContext>({ locale, timeZone, [ofEverybody]: true } as LoomContext, {
    get(target, name) {
      if (typeof name === 'symbol' || shared.has(name)) return Reflect.get(target, name) as unknown;
      throw new RenderError(loomDiagnostic('refused-publication', { what: `reads context.${name}` }));
    },
  });
}
