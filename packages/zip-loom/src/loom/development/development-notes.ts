/** What a page has nowhere to show: said in the log and on the page, to whoever develops it. */
import { type Diagnostic, RenderError } from '../../diagnostics/index.ts';
import { type Bindable, escapeText, mountedURL } from '../../kernel/index.ts';
import type { Logger } from '../create/options.ts';
import { logDiagnostic } from '../log/log.ts';
import { answerDiagnostic } from '../respond/answer-diagnostics.ts';
import type { NotedPage } from './development-tools.ts';

/** Errors of a form that its page does not show. */
export function formNotes(form: Bindable, page: string, logger: Logger): string {
  const notes = [...form.unshownErrors()].map(([field, [text = '']]) =>
    answerDiagnostic('unshown-error', { form: form.name, field, text }),
  );
  return noted(notes, page, logger);
}

/** Flash messages without a place, and regions whose changes come from nowhere. */
export function pageNotes({ page, messages, usesChannels, channels }: NotedPage, logger: Logger): string {
  const notes: Diagnostic[] = messages.map(({ text }) => answerDiagnostic('unshown-message', { page, text }));
  if (usesChannels && !channels) notes.push(answerDiagnostic('missing-channels', { page }));
  if (usesChannels && channels?.watch?.shown())
    notes.push(answerDiagnostic('missing-channels-route', { path: channels.url }));
  return noted(notes, page, logger);
}

/** URLs of values that lead out of a site which is mounted below a path. */
export function noteURL(base: string, log: (error: RenderError) => void): ((url: string) => void) | undefined {
  if (base === '') return undefined;
  return (url) => {
    if (mountedURL(url, base) !== url) log(new RenderError(answerDiagnostic('unmounted-value', { url, base })));
  };
}

function noted(notes: readonly Diagnostic[], page: string, logger: Logger): string {
  for (const note of notes) logDiagnostic(logger, note, { page });
  return notes
    .map(
      ({ message, hint }) =>
        `<div role="note" style="${style}"><b>Development note</b> ${escapeText(message)}<br>${escapeText(hint)}</div>`,
    )
    .join('');
}

const style =
  'border:2px dashed #a3212b;background:#fff;color:#1c2126;font:15px/1.5 system-ui,sans-serif;margin:8px;padding:8px 12px;text-align:start';
