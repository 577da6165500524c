/**
 * What visitors see in place of a page that failed: nothing of the template, nothing of the data.
 * @param number what they can quote, so that the line in the log is found
 */
export function visitorsPage(number: string): string {
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Something went wrong</title>
<h1>Something went wrong</h1>
<p>This page could not be made. Please try again later.</p>
<p>If you write to us about it, please quote the number ${number}.</p>
</html>
`;
}
