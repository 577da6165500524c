/** Search in the chapters: every word that is typed begins a word of the section. */
const box = document.querySelector('search');
const input = box.querySelector('input');
const list = box.querySelector('ul');
box.hidden = false;
let index;
let chosen = -1;

input.addEventListener('focus', () => {
  index ??= fetch('/search.json').then((answer) => answer.json());
});
input.addEventListener('input', async () => {
  const words = input.value.toLowerCase().match(/[\p{L}\p{N}-]+/gu) ?? [];
  index ??= fetch('/search.json').then((answer) => answer.json());
  const sections = await index;
  const scored = sections.flatMap((one) => {
    const heading = `${one.title} ${one.heading}`.toLowerCase();
    const text = one.words.toLowerCase();
    let score = 0;
    for (const word of words) {
      const begins = new RegExp(`(?<![\\p{L}\\p{N}])${word}`, 'u');
      if (begins.test(heading)) score += 5;
      else if (begins.test(text)) score += 1;
      else return [];
    }
    return [{ ...one, score }];
  });
  show(words.length === 0 ? [] : scored.sort((one, other) => other.score - one.score).slice(0, 8), words.length > 0);
});
input.addEventListener('keydown', (event) => {
  const links = [...list.querySelectorAll('a')];
  if (event.key === 'Escape') show([], false);
  else if (event.key === 'Enter' && links.length > 0) links[Math.max(chosen, 0)].click();
  else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault();
    chosen = (chosen + (event.key === 'ArrowDown' ? 1 : -1) + links.length) % Math.max(links.length, 1);
    for (const [at, link] of links.entries()) link.classList.toggle('chosen', at === chosen);
  }
});
document.addEventListener('keydown', (event) => {
  if (event.key !== '/' || /^(?:input|textarea)$/i.test(event.target.tagName)) return;
  event.preventDefault();
  input.focus();
});

function show(found, isAsked) {
  chosen = -1;
  list.hidden = !isAsked;
  input.setAttribute('aria-expanded', String(isAsked));
  list.replaceChildren(
    ...found.map(({ url, title, heading }) => {
      const item = document.createElement('li');
      const link = item.appendChild(document.createElement('a'));
      link.href = url;
      link.append(heading, Object.assign(document.createElement('small'), { textContent: title }));
      return item;
    }),
    ...(isAsked && found.length === 0 ? [Object.assign(document.createElement('li'), { textContent: 'Nothing found.' })] : []),
  );
}
