/** Where the content of a `<script>` ends: HTML §13.2.5.4 and .15 to .31, the script data states. */

const landmark = /<!--|-->|<(\/?)script(?=[\t\n\f\r />])/gi;

/** The offset of the `</script` that ends the script data at `from`, or the end of the source. */
export function scriptDataEnd(source: string, from: number): number {
  let state: 'data' | 'escaped' | 'double-escaped' = 'data';
  landmark.lastIndex = from;
  for (let found = landmark.exec(source); found; found = landmark.exec(source)) {
    const [text, slash] = found;
    if (text === '<!--') {
      if (state === 'data') state = 'escaped';
      // The two dashes may already belong to “-->”, as in “<!-->”.
      landmark.lastIndex = found.index + 2;
    } else if (text === '-->') {
      state = 'data';
    } else if (state === 'double-escaped') {
      if (slash) state = 'escaped';
    } else if (slash) {
      return found.index;
    } else if (state === 'escaped') {
      state = 'double-escaped';
    }
  }
  return source.length;
}
