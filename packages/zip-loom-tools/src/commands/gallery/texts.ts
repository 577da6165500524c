/** Style and script of the gallery. */

export const style = `:root {
  color-scheme: light dark;
  --ink: light-dark(#16202a, #e8eef2);
  --quiet: light-dark(#55636f, #a5b3bd);
  --paper: light-dark(#f4f5f3, #12181d);
  --card: light-dark(#ffffff, #1a2229);
  --line: light-dark(#d3dae0, #33404a);
  --mark: light-dark(#0a5c6b, #7fd0de);
}
* { box-sizing: border-box; }
body { background: var(--paper); color: var(--ink); display: grid; font: 16px/1.5 system-ui, sans-serif; grid-template: auto 1fr / 15rem minmax(0, 1fr); margin: 0; min-height: 100vh; }
header { align-items: center; border-bottom: 1px solid var(--line); display: flex; flex-wrap: wrap; gap: .5rem 2rem; grid-column: 1 / -1; justify-content: space-between; min-height: 3.25rem; padding: .4rem 1.25rem; }
header a { color: inherit; text-decoration: none; }
fieldset { border: 0; display: flex; gap: 1rem; margin: 0; padding: 0; }
fieldset[hidden] { display: none; }
legend { clip-path: inset(50%); height: 1px; overflow: hidden; position: absolute; width: 1px; }
nav { border-inline-end: 1px solid var(--line); padding: .5rem 0 2rem; }
nav h2 { color: var(--quiet); font-size: .85rem; margin: 1rem 1.25rem .25rem; }
nav ul { list-style: none; margin: 0; padding: 0; }
nav li a { color: inherit; display: block; overflow-wrap: anywhere; padding: .15rem 1.25rem; text-decoration: none; }
nav li a:hover { color: var(--mark); }
nav [aria-current] { border-inline-start: 3px solid var(--mark); color: var(--mark); font-weight: 600; padding-inline-start: calc(1.25rem - 3px); }
main { padding: 1rem 1.25rem 4rem; }
h1 { font-size: 1.5rem; margin: 0 0 .5rem; }
h2 { font-size: 1.05rem; margin: 1.5rem 0 .5rem; }
iframe { background: light-dark(#fff, #121212); border: 0; display: block; transform: scale(var(--scale)); transform-origin: 0 0; }
.overview ul { display: grid; gap: 1rem; grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr)); list-style: none; margin: 0; padding: 0; }
.overview li a { background: var(--card); border: 1px solid var(--line); border-radius: 8px; color: inherit; display: block; overflow: hidden; padding: 0 .75rem .5rem; text-decoration: none; }
.overview li a:hover { border-color: var(--mark); }
.small { --scale: .28; aspect-ratio: 16 / 10; border-bottom: 1px solid var(--line); container-type: inline-size; display: block; margin: 0 -.75rem .5rem; overflow: hidden; }
.small iframe { height: 800px; pointer-events: none; width: calc(100% / var(--scale)); }
.widths { --sum: 2408; align-items: start; container-type: inline-size; display: flex; gap: 1rem; }
figure { --scale: .4; flex: var(--width) 1 0; margin: 0; min-width: 0; }
figcaption { font-size: .85rem; padding: .1rem 0 .3rem; }
figcaption a { color: var(--quiet); }
.frame { background: var(--card); border: 1px solid var(--line); border-radius: 6px; height: calc(900px * var(--scale)); overflow: hidden; }
.frame iframe { height: 900px; width: calc(var(--width) * 1px); }
a:focus-visible, input:focus-visible { outline: 2px solid var(--mark); outline-offset: 2px; }
@media (max-width: 50rem) {
  body { grid-template-columns: minmax(0, 1fr); }
  nav { border: 0; border-bottom: 1px solid var(--line); padding-bottom: .5rem; }
  nav ul { display: flex; flex-wrap: wrap; padding: 0 1.25rem; gap: 0 1rem; }
  nav li a, nav [aria-current] { border: 0; padding: .15rem 0; }
  .widths { display: block; }
  figure { margin-bottom: 1rem; }
}
`;

/** Frames fit the space that there is; the colours are chosen; and what changes is shown. */
export const script = `const live = document.querySelector('meta[name=gallery-live]');
if (live) new EventSource(live.content).onmessage = () => location.reload();

const frames = [...document.querySelectorAll('figure')];
function fit() {
  for (const figure of frames) {
    const width = Number(getComputedStyle(figure).getPropertyValue('--width'));
    const scale = Math.min(1, figure.clientWidth / width);
    const iframe = figure.querySelector('iframe');
    figure.style.setProperty('--scale', scale);
    let height = 900;
    if ('fits' in iframe.dataset && iframe.contentDocument?.documentElement) {
      // What is as high as its window is measured in a low one.
      iframe.style.height = '40px';
      height = Math.max(40, iframe.contentDocument.documentElement.scrollHeight);
    }
    iframe.style.height = height + 'px';
    figure.querySelector('.frame').style.height = height * scale + 'px';
  }
}
addEventListener('resize', fit);
for (const iframe of document.querySelectorAll('iframe')) iframe.addEventListener('load', fit);
fit();

const asked = /\\(\\s*prefers-color-scheme\\s*:\\s*(light|dark)\\s*\\)/g;
const written = new WeakMap();
// What asks for the colours of the system is told others.
function answer(media, scheme) {
  if (!written.has(media)) written.set(media, media.mediaText);
  const text = written.get(media);
  media.mediaText = scheme ? text.replace(asked, (_, one) => (one === scheme ? '(min-width: 0)' : '(max-width: 0)')) : text;
}
function answerRules(rules, scheme) {
  for (const rule of rules) {
    if (rule.media) answer(rule.media, scheme);
    if (rule.styleSheet) answerRules(rule.styleSheet.cssRules, scheme);
    else if (rule.cssRules) answerRules(rule.cssRules, scheme);
  }
}
function colourFrame(iframe, scheme) {
  iframe.style.colorScheme = scheme;
  const page = iframe.contentDocument;
  if (!page?.documentElement) return;
  if (scheme) page.documentElement.style.setProperty('color-scheme', scheme, 'important');
  else page.documentElement.style.removeProperty('color-scheme');
  for (const sheet of page.styleSheets) {
    answer(sheet.media, scheme);
    try {
      answerRules(sheet.cssRules, scheme);
    } catch {
      // Sheets of other hosts are closed.
    }
  }
}
let current = '';
function colour(scheme) {
  current = scheme;
  for (const iframe of document.querySelectorAll('iframe')) colourFrame(iframe, scheme);
  document.documentElement.style.colorScheme = scheme;
}
for (const iframe of document.querySelectorAll('iframe'))
  iframe.addEventListener('load', () => colourFrame(iframe, current));
const choice = document.querySelector('fieldset');
if (choice) {
  const kept = sessionStorage.getItem('gallery-scheme') ?? '';
  choice.hidden = false;
  choice.querySelector('[value="' + kept + '"]').checked = true;
  colour(kept);
  choice.addEventListener('change', ({ target }) => {
    sessionStorage.setItem('gallery-scheme', target.value);
    colour(target.value);
  });
}
`;
