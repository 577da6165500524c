/** Receipts for files that were kept for another try of a form: for one visitor, one form and one field. */
import type { Sealer } from './sealing.ts';
import { openPayload, signPayload } from './signed-payload.ts';

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

/**
 * @param until when it ends, in milliseconds since 1970
 */
export function sealReceipt(sealer: Sealer, session: string, receipt: Receipt, until: number): string {
  const { key, form, field, name, type } = receipt;
  return signPayload(sealer, 'receipt', session, [until, key, form, field, name, type]);
}

/** `undefined` for one that is not ours or not this visitor’s. */
export function openReceipt(sealer: Sealer, session: string, sealed: string, now: number): Receipt | undefined {
  const opened = openPayload(sealer, 'receipt', session, sealed);
  if (!opened) return undefined;
  // What is signed was written above.
  const [until, ...facts] = opened as [number, ...string[]];
  const [key = '', form = '', field = '', name = '', type = ''] = facts;
  return { key, form, field, name, type, isOld: !(until > now) };
}
