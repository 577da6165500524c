/** URLs and their fragments. */

export function withoutFragment(url: string): string {
  return url.split('#')[0]!;
}

/** An answer’s URL with the fragment of the URL that was asked for, where it has none of its own: servers never see it. */
export function withFragment(url: string, asked: string): string {
  const { hash } = new URL(asked || url, location.href);
  return hash && !url.includes('#') ? url + hash : url;
}

/** Percent-decoded text; as it is where it is none. */
export function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** The answer’s URL, where the page has a new one: of the last request, when it can be asked for again. */
export function newURL(
  answer: { url: string; isGET: boolean },
  asked: { url: string; method: string; urlChange: string },
): string | undefined {
  if (!answer.isGET || asked.urlChange === 'keep') return undefined;
  const url = withFragment(answer.url, asked.method === 'GET' ? asked.url : '');
  return url === location.href ? undefined : url;
}
