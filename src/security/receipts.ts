/** Receipts for files that were kept for another try of a form: for one visitor, one form and one field. */
import { fromBase64URL, toBase64URL } from './base64url.ts';
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

const encoder = new TextEncoder();

/**
 * The session is proved and not written: pages can be read by more than the cookie.
 * @param until when it ends, in milliseconds since 1970
 */
export function sealReceipt(sealer: Sealer, session: string, receipt: Receipt, until: number): string {
  const { key, form, field, name, type } = receipt;
  const payload = toBase64URL(encoder.encode(JSON.stringify([until, key, form, field, name, type])));
  return `${payload}.${sealer.sign('receipt', `${session} ${payload}`)}`;
}

/** `undefined` for one that is not ours or not this visitor’s. */
export function openReceipt(sealer: Sealer, session: string, sealed: string, now: number): Receipt | undefined {
  const dot = sealed.lastIndexOf('.');
  const payload = sealed.slice(0, Math.max(0, dot));
  if (!sealer.verify('receipt', `${session} ${payload}`, sealed.slice(dot + 1))) return undefined;
  // What is signed was written above.
  const [until, ...facts] = JSON.parse(fromBase64URL(payload) ?? '[]') as [number, ...string[]];
  const [key = '', form = '', field = '', name = '', type = ''] = facts;
  return { key, form, field, name, type, isOld: !(until > now) };
}
