/** The path of a URL as the files that it names. An encoded slash is a character of its step, and what cannot be decoded stays as it is. */
export function decodedPath(pathname: string): string {
  return pathname
    .split('/')
    .map((step) => {
      const text = decodedText(step);
      return text.includes('/') ? step : text;
    })
    .join('/');
}

/** What cannot be decoded stays as it is. */
export function decodedText(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
