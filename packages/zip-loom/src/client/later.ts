/** Dialogs and channels: loaded when a page needs them. */
import { channelAttribute, openAttribute } from '../protocol/index.ts';
import type { Around as AroundChannels, Channels } from './channels/index.ts';
import type { Around as AroundDialogs, Dialogs } from './dialogs/index.ts';
import { tools } from './tools.ts';

export interface Later {
  /** The dialogs, where any was opened. */
  dialogs(): Dialogs | undefined;
  /** Whether a link opens a dialog. */
  open(link: HTMLAnchorElement): boolean;
  /** Opens the dialogs that were open. */
  restore(): void;
  /** Listens to the channels that the page has now. */
  listen(): Promise<void>;
}

export function createLater(around: AroundDialogs & AroundChannels): Later {
  let dialogs: Dialogs | undefined;
  let channels: Channels | undefined;
  return {
    dialogs: () => dialogs,
    open(link) {
      if (!/^dialog\b/.test(link.getAttribute(openAttribute) ?? '')) return false;
      load().then(
        (loaded) => loaded.open(link),
        // Without what opens it, it is an ordinary page.
        () => location.assign(link.href),
      );
      return true;
    },
    restore() {
      if ((history.state as { dialogs?: unknown } | null)?.dialogs) load().catch(() => {});
    },
    async listen() {
      const { state, regions } = around;
      const isNeeded = [...regions().values()].some((one) => one.hasAttribute(channelAttribute));
      const loaded =
        !channels && isNeeded && state.channels && (await import('./channels/index.ts').catch(() => undefined));
      if (loaded) channels ??= loaded.createChannels(around);
      channels?.refresh();
    },
  };

  /** Rejects where a newer version of the site has other files. */
  async function load(): Promise<Dialogs> {
    const loaded = await import('./dialogs/index.ts');
    dialogs ??= loaded.createDialogs(tools, around);
    return dialogs;
  }
}
