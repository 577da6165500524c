/** Keys of objects, as a store makes them. */

/** 192 bits, in base64url. */
const keyPattern = /^[\w-]{32}$/;

/** True for what `s3Store` may have made: nothing else is read or removed. */
export function isKey(key: string): boolean {
  return keyPattern.test(key);
}
