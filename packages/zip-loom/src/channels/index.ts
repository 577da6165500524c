/** `zip-loom/channels`: what happens is seen by everyone who looks. */

export type { PairRequest, PairResponse } from '../http/index.ts';
export type { PublicationPlace } from '../loom/index.ts';
export type { Broker, BrokerEvent, BrokerOptions, Replay } from './broker.ts';
export { type ChannelStats, type Channels, type ConnectOptions, createChannels } from './channels.ts';
export { memoryBroker } from './memory-broker.ts';
export type { ChannelsOptions } from './options.ts';
