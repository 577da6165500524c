/** What a form that is shown takes along to its reading. */
import { keptField } from '../../protocol/index.ts';
import { randomText } from '../../security/index.ts';
import { parsePath } from '../schema/paths.ts';
import type { Group } from '../schema/shape.ts';
import type { FormSettings } from '../settings.ts';
import type { FormState, ProvedEntry } from '../state.ts';
import { stepIndex } from '../steps.ts';
import { canonicalText, digestOf } from './canonical-text.ts';
import type { BindOptions, FormContent } from './content.ts';
import { type Version, versionText } from './version.ts';

/** As text, or nothing where there is nothing to take along. @param names of the fields that are shown, as patterns */
export function stateText(
  settings: FormSettings,
  shape: Group,
  { content, options, names }: { content: FormContent; options: BindOptions; names: ReadonlySet<string> },
): string | undefined {
  const { steps, once } = settings;
  const { version } = options;
  if (!steps && !once && version === undefined) return undefined;
  const state: FormState = {
    ...(steps ? ofSteps(settings, content) : {}),
    ...(version === undefined ? {} : (content.base ?? ofModel(version, shape, content, names))),
    // 72 bits: no two showings have the same.
    ...(once ? { number: randomText(9) } : {}),
  };
  return JSON.stringify(state);
}

function ofSteps(
  { steps = [], limitsInForce }: FormSettings,
  { step, sent = [], draft = [], files }: FormContent,
): FormState {
  const current = steps[stepIndex(steps, step)]!;
  const isElsewhere = (name: string) => !current.fields.includes(String(parsePath(name, limitsInForce.depth)?.[0]));
  // A receipt is a proof of its own.
  const receipts = [...(files ?? [])].flatMap(([field, some]) =>
    isElsewhere(field) ? some.map((file) => [keptField, file.receipt()] as const as ProvedEntry) : [],
  );
  const entries = sent.filter(([name]) => isElsewhere(name));
  const left = draft.filter(([name]) => isElsewhere(name));
  return {
    step: current.name,
    entries: [...entries, ...receipts],
    ...(left.length > 0 ? { draft: left } : {}),
  };
}

function ofModel(version: Version, shape: Group, { model }: FormContent, names: ReadonlySet<string>): FormState {
  const fields = new Set([...names].map((name) => name.split(/[.[]/, 1)[0]!));
  const shown: Record<string, string> = {};
  for (const [name, field] of shape.fields) {
    const text = fields.has(name) ? canonicalText({ model }, [name], field) : undefined;
    if (text !== undefined) shown[name] = digestOf(text);
  }
  return { version: versionText(version), shown };
}
