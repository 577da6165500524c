/** A small proxy: each connection goes to the next process in turn that takes one. */
import { connect, createServer } from 'node:net';

/** @param ports where the processes listen */
export function openProxy(port, ports) {
  let next = 0;
  const server = createServer((visitor) => {
    visitor.on('error', () => {});
    reach(visitor, ports.length);
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, () => resolve(server));
  });

  function reach(visitor, tries) {
    if (tries === 0) {
      visitor.destroy();
      return;
    }
    const own = ports[next++ % ports.length];
    const server = connect(own, '127.0.0.1');
    const again = () => reach(visitor, tries - 1);
    server.once('error', again);
    server.once('connect', () => {
      server.off('error', again);
      server.on('error', () => visitor.destroy());
      visitor.pipe(server).pipe(visitor);
      visitor.on('close', () => server.destroy());
      server.on('close', () => visitor.destroy());
    });
  }
}

export function freePort() {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}
