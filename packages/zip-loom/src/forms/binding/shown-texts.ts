/** What a control shows, as text: what was sent, the model’s value, the default. */
import type { Path } from '../schema/paths.ts';
import { modelValueAt, type RawGroup, rawAt } from '../schema/raw.ts';
import type { Shape } from '../schema/shape.ts';
import { valueText } from './controls.ts';

/** What a form has of its values. */
interface Values {
  model: unknown;
  raw?: RawGroup | undefined;
}

/** The text of a single value. */
export function textAt({ model, raw: root }: Values, path: Path, shape: Shape): string {
  const raw = root && rawAt(root, path);
  const kind = shape.shape === 'value' ? shape.kind : 'text';
  if (raw?.raw === 'value' && raw.texts.length > 0) {
    if (kind !== 'boolean') return raw.texts.at(-1)!;
    return raw.texts.some((text) => ['on', 'true', '1', 'yes'].includes(text.toLowerCase())) ? 'true' : 'false';
  }
  return valueText(modelValueAt(model, root, path) ?? shape.fallback, kind);
}

/** The texts of a list of single values. */
export function textsAt({ model, raw: root }: Values, path: Path, shape: Shape): string[] {
  const raw = root && rawAt(root, path);
  if (raw?.raw === 'list') return [...raw.items.values()].flatMap((item) => (item.raw === 'value' ? item.texts : []));
  const value = modelValueAt(model, root, path) ?? shape.fallback;
  return Array.isArray(value) ? value.map((item) => valueText(item, 'text')) : [];
}
