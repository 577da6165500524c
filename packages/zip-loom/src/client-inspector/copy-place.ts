/** Puts a place into the clipboard, where there is one. */
export function copyPlace(file: string, line: number): void {
  void navigator.clipboard?.writeText(`${file}:${line}`);
}
