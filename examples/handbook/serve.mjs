/** Serves the site that was made of the handbook: `node serve.mjs FOLDER`, on the port of `PORT`. */
import { createServer } from 'node:http';
import sirv from 'sirv';

const [, , folder] = process.argv;
const serve = sirv(folder, { dev: true });
const server = createServer((request, response) => {
  serve(request, response, () => response.writeHead(404, { 'content-type': 'text/plain' }).end('Nothing is here.'));
});
server.listen(Number(process.env.PORT ?? 3000), () => {
  console.log(`The handbook: http://localhost:${server.address().port}/`);
});
