/** Bodies of several parts, as browsers write them (RFC 7578), and as nobody should. */

export const boundary = '----harbour7MA4YWxkTrZu0gW';
export const multipartType = `multipart/form-data; boundary=${boundary}`;

/** A part: its name, and text; or a file with its name and type. */
export type WrittenPart =
  | readonly [name: string, value: string]
  | readonly [name: string, file: { name: string; type?: string; bytes: Uint8Array | string }];

/** Text in UTF-8, where it is text. */
export function bytesOf(content: Uint8Array | string): Uint8Array {
  return typeof content === 'string' ? new TextEncoder().encode(content) : content;
}

/** HTML §4.10.21.8 “multipart form data”. */
function escaped(name: string): string {
  return name.replace(/"/g, '%22').replace(/\r/g, '%0D').replace(/\n/g, '%0A');
}

/** One part with its boundary before it. */
export function partBytes([name, content]: WrittenPart): Uint8Array {
  const start = `--${boundary}\r\nContent-Disposition: form-data; name="${escaped(name)}"`;
  if (typeof content === 'string') return bytesOf(`${start}\r\n\r\n${content}\r\n`);
  const { name: label, type = 'application/octet-stream', bytes } = content;
  return joined([
    bytesOf(`${start}; filename="${escaped(label)}"\r\nContent-Type: ${type}\r\n\r\n`),
    bytesOf(bytes),
    bytesOf('\r\n'),
  ]);
}

/** A whole body. */
export function multipartBody(parts: readonly WrittenPart[]): Uint8Array {
  return joined([...parts.map(partBytes), bytesOf(`--${boundary}--\r\n`)]);
}

export function joined(pieces: ReadonlyArray<Uint8Array | string>): Uint8Array {
  return new Uint8Array(Buffer.concat(pieces.map(bytesOf)));
}

/** The smallest PNG picture: one pixel. */
export const png = new Uint8Array(
  Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  ),
);

/** The start of a picture in JPEG, which is all that tells its type. */
export const jpeg = new Uint8Array([
  0xff, 0xd8, 0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0,
]);
