/** The text of a change for everybody. */
import { LoomError } from '../../diagnostics/index.ts';
import { randomText } from '../../security/index.ts';
import { actionOf, type Change, changeMarkup, headMarkup } from '../../updates/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';
import { publicContext } from './public-context.ts';
import type { Renderer } from './renderer.ts';

/** Whose words and times those who read it are given. */
export interface PublicationPlace {
  locale?: string | undefined;
  timeZone?: string | undefined;
}

export type PublicationMaker = (renderer: Renderer, change: Change, place: PublicationPlace) => Promise<string>;

/** @throws {TemplateError} for an error in its template, and where that reads what is a visitor’s alone */
export const publicationText: PublicationMaker = async (renderer, change, { locale, timeZone }) => {
  const action = actionOf(change);
  const mark = randomText(6);
  if (action.kind !== 'put') return changeMarkup(change, '', mark);
  const { content } = action;
  if (content.kind === 'markup') return changeMarkup(change, content.html, mark);
  const { places } = renderer;
  const { facts, name } = renderer.findPartial(content.name);
  if (facts.usesToken)
    throw new LoomError(loomDiagnostic('refused-publication', { name, what: 'holds a form that posts' }));
  const context = publicContext(places.localeOf(locale), places.timeZoneOf(timeZone));
  const settings = { mark, sending: { kind: 'in-place' } } as const;
  const rendering = renderer.partial(content.name, content.data, context, settings);
  if (rendering.isWaiting) await rendering.whole();
  return headMarkup(facts.placed) + changeMarkup(change, rendering.text(), mark);
};
