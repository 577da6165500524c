/** The templates that come with the loom itself. A project replaces one with a file of the same name. */
export const loomTemplates: Readonly<Record<string, string>> = {
  // Stands in place of a part that failed after the page had begun to be sent. Only developers see the details.
  'zip-loom/failed-part.html': `<meta (takes details = "")>
<div class="failed-part" role="alert">
  <p>This part of the page could not be shown.</p>
  <pre (if details)>\${details}</pre>
</div>
`,
};
