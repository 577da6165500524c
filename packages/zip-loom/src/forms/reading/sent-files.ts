/** Files that were sent, where the rows are that they came with. */
import type { SentFile } from '../binding/files.ts';
import { formatPath, type Path } from '../schema/paths.ts';
import type { Raw, RawGroup } from '../schema/raw.ts';
import type { UploadedFile } from '../uploads/uploaded-file.ts';

/** By the name of their field; those of a list of files by that of the list, however they are numbered. */
export function filesIn(
  root: RawGroup,
  keep: ((field: string, file: UploadedFile) => string) | undefined,
): Map<string, SentFile[]> {
  const files = new Map<string, SentFile[]>();
  if (keep)
    collect(root, [], (path, file) => {
      const field = formatPath(typeof path.at(-1) === 'number' ? path.slice(0, -1) : path);
      const receipt = () => keep(field, file);
      files.set(field, [...(files.get(field) ?? []), { name: file.safeName, receipt }]);
    });
  return files;
}

function collect(node: Raw, path: Path, take: (path: Path, file: UploadedFile) => void): void {
  switch (node.raw) {
    case 'value':
      for (const { file } of node.files ?? []) if (file) take(path, file);
      return;
    case 'list':
      for (const [index, item] of node.items) collect(item, [...path, index], take);
      return;
    case 'group':
      for (const [name, field] of node.fields) collect(field, [...path, name], take);
  }
}
