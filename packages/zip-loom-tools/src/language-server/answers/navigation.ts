/** Where something is declared, and where it is named. */
import type { Location } from 'vscode-languageserver/node';
import { declarationPlace, placesOf } from '../../analysis/index.ts';
import type { CodeRange } from '../../checking/index.ts';
import { locationOf, uriOf } from '../shapes.ts';
import { type Asked, symbolOf, typedPlace } from './asked.ts';

export async function definition(asked: Asked): Promise<Location | Location[] | null> {
  const { workspace } = asked;
  const symbol = symbolOf(asked);
  const own = symbol && declarationPlace(symbol);
  if (own) return locationOf(own, workspace);
  const place = typedPlace(asked);
  return place ? located(await workspace.questions?.definitions(place)) : null;
}

export async function references(asked: Asked): Promise<Location[]> {
  const { workspace } = asked;
  const symbol = symbolOf(asked);
  const own = symbol ? placesOf(workspace.compilation, symbol, workspace.scripts()) : [];
  if (own.length > 0) return own.map((one) => locationOf(one, workspace));
  const place = typedPlace(asked);
  return place ? located(await workspace.questions?.references(place)) : [];
}

function located(ranges: readonly CodeRange[] = []): Location[] {
  return ranges.map(({ file, start, end }) => ({ uri: uriOf(file), range: { start, end } }));
}
