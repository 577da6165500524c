/** `zip-loom/vite/client`: in development, changed templates are merged into the open page. */
import { reload } from '../client/index.ts';
import { pageRegion } from '../protocol/index.ts';

/** The part of Vite’s `import.meta.hot` that is used. */
interface Hot {
  on(event: string, listener: (payload: { file: string }) => void): void;
}

/** Asks for the page anew when templates have changed: what is typed, the focus and the place on the page stay. */
export function followChanges(hot: Hot | undefined): void {
  hot?.on('zip-loom:change', () => {
    closeOverlay();
    void reload(pageRegion);
  });
}

/** Vite shows an error until something else of its own comes. */
function closeOverlay(): void {
  for (const overlay of document.querySelectorAll<HTMLElement & { close?(): void }>('vite-error-overlay'))
    overlay.close?.();
}
