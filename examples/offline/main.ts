/** The page: what it shows, and what happens when somebody does something. */
import { createBuiltLoom } from 'zip-loom/built';
import { show } from 'zip-loom/client';
import { built } from 'zip-loom/templates';
import { tideNow } from '../harbour/data/tide.ts';
import { built as harbourClock } from '../harbour/templates/partials/tide-clock.html';
import { keepOffline } from './keep-offline.ts';
import { PackingList } from './packing.ts';
import { tideDays } from './tide-days.ts';
import configuration from './zip-loom.config.ts';

const loom = await createBuiltLoom({ ...configuration, built });
const harbour = await createBuiltLoom({ ...configuration, built: harbourClock });
const packing = new PackingList();
const place = (id: string) => document.getElementById(id)!;

async function showTides(): Promise<void> {
  const now = new Date();
  show(place('now'), await harbour.renderTemplate('tide-clock', { tide: tideNow(now), now }));
  show(place('tides'), await loom.renderTemplate('tide-table', { days: tideDays(now, 7, configuration.timeZone) }));
}

async function showPacking(): Promise<void> {
  show(place('packing'), await loom.renderTemplate('packing-list', { items: packing.items }));
}

function showConnection(): void {
  place('connection').textContent = navigator.onLine ? '' : 'You are offline. Everything here works all the same.';
}

place('packing').addEventListener('submit', (event) => {
  event.preventDefault();
  const form = event.target as HTMLFormElement;
  const text = String(new FormData(form).get('text')).trim();
  if (text !== '') packing.add(text);
  form.reset();
  void showPacking();
});
place('packing').addEventListener('change', ({ target }) => {
  if (!(target instanceof HTMLInputElement) || target.name !== 'packed') return;
  packing.pack(target.value, target.checked);
  void showPacking();
});
place('packing').addEventListener('click', ({ target }) => {
  if (!(target instanceof HTMLButtonElement) || target.name !== 'remove') return;
  packing.remove(target.value);
  void showPacking();
  place('packing-text').focus();
});
addEventListener('online', showConnection);
addEventListener('offline', showConnection);
// In development, when a template has changed.
document.addEventListener('loom:templates', () => void Promise.all([showTides(), showPacking()]));

showConnection();
await Promise.all([showTides(), showPacking()]);
setInterval(() => void showTides(), 5000);
void keepOffline();
