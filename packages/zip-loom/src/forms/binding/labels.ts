/** What visitors read at a field: its label, and its choices. */
import { ownValue } from '../../security/index.ts';
import { areTexts, inLocale, isText } from '../messages/by-locale.ts';
import { formatPath, type Path, patternOfPath, shapeAt } from '../schema/paths.ts';
import type { Choice, Group, Shape } from '../schema/shape.ts';
import { words } from '../schema/words.ts';
import type { FormSettings } from '../settings.ts';
import { asChoice, type ChoiceLists } from './choice-lists.ts';

/** The label of a field: from the definition, the schema’s title, or its name in words. */
export function labelAt(path: Path, form: Group, { labels }: FormSettings, locale: string | undefined): string {
  return (
    ownValue(inLocale<string>(labels, locale, isText), patternOfPath(path)) ??
    shapeAt(form, path)?.title ??
    words(String(path.findLast((step) => typeof step === 'string' && step !== '') ?? ''))
  );
}

/** The choices of a field: from data where some are given, else the schema’s. */
export function choicesAt(
  path: Path,
  shape: Shape,
  { choiceLabels }: FormSettings,
  lists: ReadonlyArray<ChoiceLists | undefined>,
  locale: string | undefined,
): readonly Choice[] | undefined {
  const value = shape.shape === 'list' ? shape.item : shape;
  const own = value.shape === 'value' ? value.choices : undefined;
  if (!own && lists.every((list) => list === undefined)) return undefined;
  const pattern = patternOfPath(path).replace(/\[\]$/, '');
  // What was found for one field comes before what all of a list can choose from.
  const name = path.length === 1 ? pattern : formatPath(path).replace(/\[\]$/, '');
  const given = lists.map((list) => ownValue(list, name) ?? ownValue(list, pattern)).find((list) => list !== undefined);
  if (given) return given.map(asChoice);
  const labels = ownValue(inLocale<Readonly<Record<string, string>>>(choiceLabels, locale, areTexts), pattern);
  return labels ? own?.map(({ value: one, label }) => ({ value: one, label: ownValue(labels, one) ?? label })) : own;
}
