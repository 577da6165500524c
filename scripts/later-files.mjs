/** Parts of the client that are loaded when a page needs them: their sources, and their minified files. */
export const laterFiles = {
  'src/client/channels/index.ts': 'client-channels.min.js',
  'src/client/changes/index.ts': 'client-changes.min.js',
  'src/client/long-lists/index.ts': 'client-long-lists.min.js',
  'src/client/files/index.ts': 'client-files.min.js',
  'src/client/dialogs/index.ts': 'client-dialogs.min.js',
};
