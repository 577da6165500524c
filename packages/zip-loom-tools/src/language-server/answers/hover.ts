/** What stands at a place, in words. */
import type { Hover } from 'vscode-languageserver/node';
import { describeSymbol } from '../../analysis/index.ts';
import { rangeOfSpan } from '../shapes.ts';
import { type Asked, symbolOf, typedPlace } from './asked.ts';

export async function hover(asked: Asked): Promise<Hover | null> {
  const symbol = symbolOf(asked);
  const own = symbol && describeSymbol(symbol);
  const place = typedPlace(asked);
  // Of values, TypeScript knows more.
  const isValue = !symbol || symbol.kind === 'name' || symbol.kind === 'helper';
  const typed = place && isValue ? await asked.workspace.questions?.describe(place) : undefined;
  if (!own && !typed) return null;
  const blocks = [
    typed && `\`\`\`ts\n${typed.code}\n\`\`\`\n${typed.text}`.trim(),
    own && `\`\`\`html\n${own.code}\n\`\`\`\n${own.text}`,
  ];
  return {
    contents: { kind: 'markdown', value: blocks.filter(Boolean).join('\n\n') },
    ...(symbol ? { range: rangeOfSpan(asked.document, symbol.span) } : {}),
  };
}
