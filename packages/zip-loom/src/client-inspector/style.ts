/** How the inspector looks, whatever the page’s own styles are. */
export const style = `
:host { all: initial; color-scheme: light dark; --ink: light-dark(#16202a, #e8eef2); --quiet: light-dark(#55636f, #a5b3bd); --paper: light-dark(#ffffff, #161e25); --line: light-dark(#d3dae0, #33404a); --mark: light-dark(#7a2ea0, #d9a1f5); }
* { box-sizing: border-box; }
.boxes { inset: 0; pointer-events: none; position: fixed; z-index: 2147483646; }
.box { outline: 1px dashed color-mix(in srgb, var(--mark) 55%, transparent); position: fixed; }
.box.chosen { background: color-mix(in srgb, var(--mark) 12%, transparent); outline: 2px solid var(--mark); }
.box span { background: var(--mark); color: light-dark(#fff, #161e25); font: 12px/1.5 system-ui, sans-serif; left: 0; padding: 0 6px; position: absolute; top: 0; white-space: nowrap; }
.panel { background: var(--paper); border: 1px solid var(--line); border-radius: 8px; bottom: 12px; box-shadow: 0 6px 30px rgb(0 0 0 / 25%); color: var(--ink); display: flex; flex-direction: column; font: 14px/1.45 system-ui, sans-serif; max-height: min(60vh, 32rem); max-width: calc(100vw - 24px); overflow: hidden; position: fixed; right: 12px; width: 26rem; z-index: 2147483647; }
header { align-items: center; border-bottom: 1px solid var(--line); display: flex; justify-content: space-between; padding: 6px 6px 6px 12px; }
h2, h3 { font-size: 14px; margin: 0; }
button { background: none; border: 0; border-radius: 5px; color: inherit; cursor: pointer; font: inherit; min-height: 28px; padding: 3px 8px; text-align: start; }
header button { border: 1px solid var(--line); }
button:focus-visible { outline: 2px solid var(--mark); outline-offset: -2px; }
ol { flex: 0 1 auto; list-style: none; margin: 0; max-height: 13rem; min-height: 5rem; overflow: auto; padding: 4px; }
.row button { align-items: baseline; display: flex; gap: 8px; width: 100%; }
.row.chosen button { background: color-mix(in srgb, var(--mark) 14%, transparent); }
small { color: var(--quiet); font-size: 12px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.time { flex: none; font-variant-numeric: tabular-nums; margin-inline-start: auto; }
.details { border-top: 1px solid var(--line); flex: 1 1 auto; overflow: auto; padding: 8px 12px; }
.details p { color: var(--quiet); margin: 0; }
dl { display: grid; gap: 0 10px; grid-template-columns: max-content 1fr; margin: 4px 0; }
dt { color: var(--quiet); }
dd { margin: 0; overflow-wrap: anywhere; }
pre { font: 12px/1.5 ui-monospace, monospace; margin: 6px 0 0; overflow-wrap: anywhere; white-space: pre-wrap; }
`;
