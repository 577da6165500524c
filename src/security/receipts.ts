/** Receipts for files that were kept for another try of a form: for one visitor, one form and one field. */
import type { Sealer } from './sealing.ts';

/** What a receipt is for. */
export interface Receipt {
  /** Of the file in its store. */
  key: string;
  form: string;
  field: string;
  /** The sender’s name for the file. */
  name: string;
  /** By its bytes. */
  type: string;
  /** The file is gone by now. */
  isOld?: boolean;
}

/** @param until when it ends, in milliseconds since 1970 */
export function sealReceipt(sealer: Sealer, session: string, receipt: Receipt, until: number): string {
  const { key, form, field, name, type } = receipt;
  return sealer.seal('receipt', JSON.stringify([session, until, key, form, field, name, type]));
}

/** `undefined` for one that is not ours or not this visitor’s. */
export function openReceipt(sealer: Sealer, session: string, sealed: string, now: number): Receipt | undefined {
  const text = sealer.open('receipt', sealed);
  if (text === undefined) return undefined;
  // What is sealed was written above.
  const [owner, until, key, form, field, name, type] = JSON.parse(text) as [string, number, ...string[]];
  if (owner !== session) return undefined;
  return { key: key!, form: form!, field: field!, name: name!, type: type!, isOld: !(until > now) };
}
