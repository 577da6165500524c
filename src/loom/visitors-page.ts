/** What visitors see in place of a page that failed: nothing of the template, nothing of the data. */
export const visitorsPage = `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Something went wrong</title>
<h1>Something went wrong</h1>
<p>This page could not be made. Please try again later.</p>
</html>
`;
