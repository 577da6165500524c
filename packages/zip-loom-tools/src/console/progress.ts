/** What a long command is doing: on a terminal, on one line that goes away. */

export interface Progress {
  tell(done: number, all: number): void;
  end(): void;
}

export function showProgress(what: string, stream: NodeJS.WritableStream & { isTTY?: boolean }): Progress {
  let last = 0;
  return {
    tell(done, all) {
      const now = Date.now();
      if (!stream.isTTY || (now - last < 80 && done < all)) return;
      last = now;
      stream.write(`\r${what} ${done} of ${all}\x1b[K`);
    },
    end() {
      if (stream.isTTY && last > 0) stream.write('\r\x1b[K');
    },
  };
}
