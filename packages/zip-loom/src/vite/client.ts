/** `zip-loom/vite/client`: in development, changed templates are merged into the open page, and the page can be inspected. */
import { reload } from '../client/index.ts';
import { watchInspector } from '../client-inspector/index.ts';
import { pageRegion } from '../protocol/index.ts';

/** The part of Vite’s `import.meta.hot` that is used. */
export interface Hot {
  on(event: string, listener: () => void): void;
}

/**
 * Asks for the page anew when templates have changed: what is typed, the focus and the place on the page stay.
 * @example followChanges(import.meta.hot);
 */
export function followChanges(hot: Hot | undefined): void {
  watchInspector({ open: openInEditor });
  hot?.on('zip-loom:change', () => {
    for (const overlay of overlays()) overlay.close?.();
    void reload(pageRegion);
  });
  // It is told before the overlay is there.
  hot?.on('vite:error', () => setTimeout(() => overlays().forEach(styleOverlay)));
}

/** Vite knows the editor that somebody works with. */
function openInEditor(file: string, line: number): void {
  void fetch(`/__open-in-editor?file=${encodeURIComponent(`${file}:${line}`)}`);
}

/** How Vite shows an error, until something else of its own comes. */
interface Overlay extends HTMLElement {
  close?(): void;
}

function overlays(): Overlay[] {
  return [...document.querySelectorAll<Overlay>('vite-error-overlay')];
}

/** A strict policy keeps its `<style>` from working, and not the same rules in a sheet that a script makes (CSP 3 §6.1.16). */
function styleOverlay({ shadowRoot }: Overlay): void {
  const style = shadowRoot?.querySelector('style');
  if (!shadowRoot || !style || style.sheet) return;
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(style.textContent);
  shadowRoot.adoptedStyleSheets = [sheet];
}
