/** The office takes boats from a file, and sees how far it has come. */
import { Hono } from 'hono';
import { type Exchange, type Loom, put } from 'zip-loom';
import type { Database } from '../data/database.ts';
import { type ImportReport, importBoats, sampleFile } from '../data/import.ts';
import { importForm } from '../forms/forms.ts';
import { keepOut } from './people.ts';

interface Needs {
  database: Database;
  loom: Loom;
  notFound(request: Request): Promise<Response>;
  /** Milliseconds that some lines take. */
  delay: number;
}

export function importRoutes({ database, loom, notFound, delay }: Needs): Hono {
  const routes = new Hono();

  const stop = (exchange: Exchange) => keepOut(exchange, notFound);

  routes.get('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    return stop(exchange) ?? exchange.respond('staff/import', { importForm: importForm.blank() });
  });

  routes.get('/sample.csv', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const headers = {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="boats.csv"',
    };
    return stop(exchange) ?? new Response(sampleFile(), { headers });
  });

  routes.post('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.read(importForm);
    const stopped = stop(exchange);
    if (stopped) return stopped;
    if (!sent.ok) return exchange.respond('staff/import', { importForm: sent });
    const text = await sent.value.file.text();
    return exchange.changes(
      async function* (signal) {
        let shown = 0;
        let last: ImportReport | undefined;
        for await (const report of importBoats(database, text, delay)) {
          yield put('import-progress', { report }).inside('import-progress');
          for (const refused of report.refused.slice(shown))
            yield put('refused-row', { refused }).atEndOf('refused-rows');
          shown = report.refused.length;
          last = report;
          // What is in the book stays there; the rest of the file is not read for nobody.
          if (signal.aborted) return;
        }
        yield exchange.page('staff/import', { importForm: importForm.blank(), report: last });
      },
      { fallback: '/staff/import' },
    );
  });

  return routes;
}
