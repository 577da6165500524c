/** Files that are dropped onto the field, its label or what is around both. */
import { draggingAttribute, dropAttribute } from '../protocol/index.ts';

let isTaking = false;

/** Begins to listen, once. */
export function takeDrops(): void {
  if (isTaking) return;
  isTaking = true;
  let area: Element | undefined;
  const leave = () => {
    area?.removeAttribute(draggingAttribute);
    area = undefined;
  };
  document.addEventListener('dragover', (event) => {
    const found = fieldAt(event);
    if (found?.area !== area) leave();
    if (!found) return;
    event.preventDefault();
    area = found.area;
    area.setAttribute(draggingAttribute, '');
  });
  document.addEventListener('dragleave', (event) => {
    if (!event.relatedTarget) leave();
  });
  document.addEventListener('drop', (event) => {
    const found = fieldAt(event);
    leave();
    if (!found || !event.dataTransfer) return;
    event.preventDefault();
    choose(found.field, event.dataTransfer.files);
  });
}

/** The field for files under the pointer; nothing on the control itself, which takes them by itself. */
function fieldAt({ target, dataTransfer }: DragEvent): { area: Element; field: HTMLInputElement } | undefined {
  if (!(target instanceof Element) || !dataTransfer?.types.includes('Files')) return undefined;
  if (target.matches('input[type=file]')) return undefined;
  const area = target.closest(`[${dropAttribute}], .field`) ?? target.closest('label');
  const control = area?.querySelector('input[type=file]:not(:disabled)') ?? target.closest('label')?.control;
  const field = control instanceof HTMLInputElement && control.type === 'file' ? control : undefined;
  return area && field ? { area, field } : undefined;
}

function choose(field: HTMLInputElement, files: FileList): void {
  const chosen = new DataTransfer();
  for (const file of [...files].slice(0, field.multiple ? undefined : 1)) chosen.items.add(file);
  field.files = chosen.files;
  for (const type of ['input', 'change']) field.dispatchEvent(new Event(type, { bubbles: true }));
}
