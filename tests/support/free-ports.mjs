/** Servers of programs that are loaded with this get ports that are free, so that several can run at once. */
import { Server } from 'node:net';

const listen = Server.prototype.listen;
Server.prototype.listen = function (...args) {
  return listen.call(
    this,
    0,
    args.find((one) => typeof one === 'function'),
  );
};
