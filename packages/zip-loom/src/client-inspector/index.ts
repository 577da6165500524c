/** `zip-loom/client/inspector`: in development, which template made which part of the page. Nothing of it belongs into production. */
import { reload } from '../client/index.ts';
import { inspectName, pageRegion } from '../protocol/index.ts';
import { copyPlace } from './copy-place.ts';
import { partsOf } from './parts.ts';
import { openView, type View } from './view.ts';

/** What a click on a part does. */
export interface InspectorOptions {
  /**
   * Opens a file in an editor: its path from where the server was started, and the line, counted from 1. Default: the place is put into
   * the clipboard.
   */
  open?(file: string, line: number): void;
}

let view: View | undefined;
let isListening = false;

/**
 * Waits for Alt+Shift+L, or for `?loom-inspect` in the URL. Then the server, in development, tells of each part of the page which
 * template made it, where that is called, what it was given and how long it took.
 * @example if (isDevelopment) (await import('zip-loom/client/inspector')).watchInspector();
 */
export function watchInspector({ open = copyPlace }: InspectorOptions = {}): void {
  if (isListening) return;
  isListening = true;
  document.addEventListener('keydown', (event) => {
    if (!event.altKey || !event.shiftKey || event.code !== 'KeyL') return;
    event.preventDefault();
    void (view ? leave() : inspect(open));
  });
  document.addEventListener('loommerged', showParts);
  if (new URL(location.href).searchParams.has(inspectName) || isWanted()) void inspect(open);
}

async function inspect(open: NonNullable<InspectorOptions['open']>): Promise<void> {
  const isMarked = partsOf(document).length > 0;
  // Whatever is asked for from now on has marks too.
  setWanted(true);
  if (!isMarked) await reload(pageRegion);
  view ??= openView({
    leave: () => void leave(),
    // Where it is called is where somebody wants to change what it is given; where it begins, what it makes of that.
    open: ({ file, line }) => open(file, line),
  });
  showParts();
}

async function leave(): Promise<void> {
  view?.close();
  view = undefined;
  setWanted(false);
  const url = new URL(location.href);
  if (url.searchParams.has(inspectName)) {
    url.searchParams.delete(inspectName);
    history.replaceState(history.state, '', url);
  }
  await reload(pageRegion);
}

function showParts(): void {
  view?.show(partsOf(document));
}

/** For this session of the browser. */
function setWanted(isOn: boolean): void {
  document.cookie = `${inspectName}=1; path=/; SameSite=Lax${isOn ? '' : '; Max-Age=0'}`;
}

function isWanted(): boolean {
  return document.cookie.split('; ').includes(`${inspectName}=1`);
}
