/** `zip-loom/redis`: channels of many processes, through Redis Streams. Takes `redis`. */
export { type RedisBrokerOptions, redisBroker } from './redis-broker.ts';
