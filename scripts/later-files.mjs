/** Parts of the client that are loaded when a page needs them: their sources below `src`, and their minified files. */
export const laterFiles = {
  'client/channels/index.ts': 'client-channels.min.js',
  'client/changes/index.ts': 'client-changes.min.js',
  'client/long-lists/index.ts': 'client-long-lists.min.js',
  'client/files/index.ts': 'client-files.min.js',
  'client/dialogs/index.ts': 'client-dialogs.min.js',
};
