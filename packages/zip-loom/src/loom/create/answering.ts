/** What answers requests for a loom: exchanges, with sessions, forms and all that belongs to them. */
import { FileKeeper } from '../../forms/index.ts';
import type { PairAnswerer, ServerObjects } from '../../http/index.ts';
import { sealerFor, siteSettings } from '../../security/index.ts';
import type { DevelopmentTools } from '../development/development-tools.ts';
import { contentPolicy } from '../policy/content-policy.ts';
import type { Program } from '../program/program.ts';
import { pageSource, type SourceMaker } from '../render/page-source.ts';
import { type PublicationMaker, publicationText } from '../render/publication.ts';
import type { Renderer } from '../render/renderer.ts';
import type { ChannelDoor } from '../respond/channel-door.ts';
import type { Exchange } from '../respond/exchange.ts';
import { exchangeMaker } from '../respond/exchanges.ts';
import { errorPageFor, failurePageFor } from '../respond/failures.ts';
import { Languages } from '../respond/languages.ts';
import { type IdempotencyStore, idempotencyInMemory } from '../submission/idempotency.ts';
import type { Logger, LoomMode, LoomOptions } from './options.ts';
import type { Platform } from './platform.ts';

/** What a loom is made of. */
export interface LoomNeeds {
  program: Program;
  options: LoomOptions;
  mode: LoomMode;
  /** For whoever works on the site; none where visitors come. */
  tools?: DevelopmentTools | undefined;
}

interface AnswerNeeds extends LoomNeeds {
  renderer: Renderer;
  door: ChannelDoor;
}

/** Makes the exchange of a request. */
export type ExchangeMaker = (request: Request, server?: ServerObjects) => Exchange | Promise<Exchange>;

export interface Answerer {
  exchanges(needs: AnswerNeeds): ExchangeMaker;
  /** Hands a page over while it is still to come in part. */
  readonly source: SourceMaker;
  /** Writes what is published. */
  readonly publication: PublicationMaker;
  /** Answers `(req, res)`, where the platform has such servers. */
  readonly pair?: PairAnswerer | undefined;
}

/**
 * What answers, on a platform with codes and perhaps files.
 * @throws {LoomError} in production, where forms are posted and there is no secret
 */
export function answeringOn(platform: Platform): Answerer {
  const exchanges = ({ program, options, mode, tools, renderer, door }: AnswerNeeds) => {
    const errorPage = errorPageFor(renderer, options.errorPage);
    const idempotency = options.idempotency ?? idempotencyInMemory();
    return exchangeMaker({
      renderer,
      door,
      languages: new Languages(renderer.places.locales),
      sealer: sealerFor(options.secret, mode === 'production' && program.postsForms(), platform.codes),
      site: siteSettings(options),
      context: options.context,
      failurePage: tools?.failurePage ?? failurePageFor(errorPage),
      strangersPage: failurePageFor(errorPage),
      errorPage,
      idempotency,
      keeper: keeperFor(options, platform, idempotency, renderer.logger),
      policy: contentPolicy(options.policy, options.policy !== undefined && program.framesItself()),
    });
  };
  return { exchanges, source: pageSource, publication: publicationText, pair: platform.pair };
}

function keeperFor(
  { uploads: store, uploadQuota: quota, uploadTotal: total }: LoomOptions,
  { files }: Platform,
  claims: IdempotencyStore,
  logger: Logger,
): FileKeeper | undefined {
  const report = (err: unknown) => logger.error({ err }, 'The store of uploads failed.');
  return files && new FileKeeper(files, { store, quota, total, claims }, report);
}
