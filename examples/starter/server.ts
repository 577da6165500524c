/** Starts the site. `PORT` sets another port than 3000; in production, `SECRET` seals forms. */
import { serve } from '@hono/node-server';
import { createApp } from './app.ts';

const mode = process.argv.includes('--dev') ? 'development' : 'production';
const app = await createApp(mode);
serve({ fetch: app.fetch, port: Number(process.env.PORT ?? 3000) }, ({ port }) => {
  console.log(`http://localhost:${port}/`);
});
