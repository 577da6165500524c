/** A promise that a test keeps when it likes. */
export function gate(): { opened: Promise<void>; open(): void } {
  let open = () => {};
  const opened = new Promise<void>((resolve) => {
    open = resolve;
  });
  return { opened, open: () => open() };
}
