/** What a field holds as one text, whether it is the model’s or was sent: two that are the same look the same. */
import { Digest } from '../../kernel/index.ts';
import type { Path } from '../schema/paths.ts';
import type { RawGroup } from '../schema/raw.ts';
import { modelValueAt, rawAt } from '../schema/raw.ts';
import { rowCount } from '../schema/rows.ts';
import type { Shape } from '../schema/shape.ts';
import { textAt, textsAt } from './shown-texts.ts';

interface Values {
  model: unknown;
  raw?: RawGroup | undefined;
}

/** Nothing for what is never printed back. */
export function canonicalText(values: Values, path: Path, shape: Shape): string | undefined {
  switch (shape.shape) {
    case 'group':
      return [...shape.fields]
        .map(([name, field]) => canonicalText(values, [...path, name], field) ?? '')
        .join('\u0000');
    case 'list': {
      if (shape.item.shape === 'value')
        return textsAt(values, path, shape)
          .map(normalised)
          .filter((text) => text !== '')
          .join('\u0000');
      const count = rowCount(
        shape,
        values.raw && rawAt(values.raw, path),
        modelValueAt(values.model, values.raw, path),
      );
      const rows = Array.from({ length: count }, (_, index) => canonicalText(values, [...path, index], shape.item));
      return rows.join('\u0001');
    }
    case 'value': {
      if (shape.kind === 'file' || shape.kind === 'password') return undefined;
      const text = normalised(textAt(values, path, shape));
      return shape.kind === 'boolean' && text === '' ? 'false' : text;
    }
  }
}

/** As a browser sends it, and as it is read. */
function normalised(text: string): string {
  return text.replace(/\r\n?/g, '\n').trim();
}

export function digestOf(text: string): string {
  const digest = new Digest();
  digest.add(text);
  return digest.text();
}
