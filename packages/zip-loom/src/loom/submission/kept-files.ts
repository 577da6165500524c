/** Files that were kept for another try of their form, under receipts. */
import {
  type Entries,
  type FileEntry,
  type FileRule,
  fileFault,
  keptFor,
  type TakenFiles,
  valuesOf,
} from '../../forms/index.ts';
import { keptField, removeField } from '../../protocol/index.ts';
import type { Receipt, Visitor } from '../../security/index.ts';

/** What was read, whole or as far as it went. */
type Read = Pick<Extract<Entries, { ok: true }>, 'entries' | 'files'>;

/** What keeps a file for the next try of a form, and gives its receipt. */
export function keeping(
  hand: TakenFiles,
  visitor: Visitor,
  form: string,
): (field: string, file: NonNullable<FileEntry['file']>) => string {
  return (field, file) => {
    const key = hand.keep(file) ?? '';
    return visitor.sealReceipt({ key, form, field, name: file.name, type: file.type }, keptFor);
  };
}

/** What was sent, with the files that came with an earlier try and are not replaced or removed now. */
export async function withKeptFiles<Body extends Read>(
  body: Body,
  { hand, visitor, form }: { hand: TakenFiles; visitor: Visitor; form: string },
  ruleOf: (name: string) => FileRule | undefined,
): Promise<Body> {
  const receipts = valuesOf(body, keptField).flatMap((sealed) => visitor.openReceipt(sealed) ?? []);
  if (receipts.length === 0) return body;
  const removed = new Set(valuesOf(body, removeField));
  const replaced = new Set((body.files ?? []).map(({ name }) => name));
  const found = await Promise.all(
    receipts.map(async (receipt): Promise<FileEntry[]> => {
      const { field } = receipt;
      const rule = ruleOf(field);
      if (receipt.form !== form || !rule || removed.has(field) || (replaced.has(field) && !rule.isMany)) return [];
      return [{ name: field, label: receipt.name, isKept: true, ...(await keptFile(hand, receipt, rule)) }];
    }),
  );
  return { ...body, files: [...found.flat(), ...(body.files ?? [])] };
}

async function keptFile(
  hand: TakenFiles,
  receipt: Receipt,
  rule: FileRule,
): Promise<Pick<FileEntry, 'file' | 'fault'>> {
  const upload = receipt.isOld ? undefined : await hand.keeper.take(receipt.key);
  if (!upload) return { fault: { code: 'file-gone' } };
  const file = hand.add(receipt.key, upload, receipt);
  const fault = fileFault(file, rule);
  return fault ? { fault } : { file };
}
