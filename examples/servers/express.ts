/** Express, and any other router whose handlers are given `(req, res)`. */
import express from 'express';
import { nodeExchange, respondTo } from 'zip-loom/node';
import { addEntry, latestEntries } from '../starter/log.ts';
import { entryForm } from './forms.ts';
import { clientFolder, clientPath, loom, port, publicFolder, tell } from './loom.ts';

const app = express();

app.use(express.static(publicFolder));
app.get(clientPath, express.static(clientFolder));

app.get('/', (req, res) =>
  respondTo(loom, req, res, 'home', { entries: latestEntries(), entryForm: entryForm.blank() }),
);

app.post('/', async (req, res) => {
  const exchange = await nodeExchange(loom, req, res);
  const sent = await exchange.read(entryForm);
  if (!sent.ok) return exchange.respond('home', { entries: latestEntries(), entryForm: sent });
  addEntry(sent.value);
  return exchange.redirect('/', { flash: `${sent.value.boat} is in the log.` });
});

for (const { path, page } of loom.routes()) app.get(path, (req, res) => respondTo(loom, req, res, page));

app.listen(port, tell);
