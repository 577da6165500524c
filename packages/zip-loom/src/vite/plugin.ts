/** The plugin: templates are modules, for the server and for the browser. */
import type { DevEnvironment, Environment, EnvironmentModuleNode, Plugin, ResolvedConfig } from 'vite';
import type { NodeLoomOptions } from '../node/index.ts';
import { assetMap } from './asset-map.ts';
import { BuiltAssets } from './built-assets.ts';
import { overlayError, rollupError } from './error-payload.ts';
import { clientId, fileNamed, ModuleIds, nothingId } from './module-ids.ts';
import { TemplateProject } from './template-project.ts';

/** Where the project is, and where its types go. */
export interface ZipLoomOptions {
  /** A folder of the project; its configuration is looked for from there upwards. Default: the root of Vite. */
  project?: string;
  /** Where the types of pages go, from the project’s folder; `false` for nowhere. Default: `templates.d.ts`. */
  types?: string | false;
}

/** What other plugins and servers may ask of the plugin (`plugin.api`, as Vite has it). */
export interface ZipLoomAPI {
  /** The files that templates name, and their URLs, as they are now. */
  assets(): ReadonlyMap<string, string> | undefined;
}

/** What scripts import all templates from. */
const templatesModule = 'zip-loom/templates';
/** What scripts import the client from; in development it is told of changed templates. */
const clientModule = 'zip-loom/client';

/** What the browser is told when templates have changed and nothing is wrong with them. */
const changeEvent = 'zip-loom:change';

/**
 * Makes templates importable, builds them ahead, and merges changed ones into open pages.
 * @example export default defineConfig({ plugins: [zipLoom()] });
 */
export function zipLoom({ project: start, types = 'templates.d.ts' }: ZipLoomOptions = {}): Plugin<ZipLoomAPI> {
  let config: ResolvedConfig;
  let project: TemplateProject;
  let ids: ModuleIds;
  const builtAssets = new BuiltAssets();
  /** The code of each module as it was last handed out. */
  const served = new Map<string, string>();

  /** In development all files are where Vite serves them; in a build those that the configuration does not place are built. */
  const assets = (options: NodeLoomOptions): ReadonlyMap<string, string> | undefined => {
    const isBuild = config.command === 'build';
    if (isBuild && options.assets !== undefined) return undefined;
    const base = options.base === undefined ? config.base : '/';
    const folders = { root: config.root, publicFolder: config.publicDir, without: [project.folder] };
    return assetMap(folders, base, isBuild ? builtAssets.markOf : undefined);
  };

  return {
    name: 'zip-loom',
    enforce: 'pre',
    api: { assets: () => assets(project.options) },

    config: () => ({ optimizeDeps: { exclude: ['zip-loom'] } }),

    async configResolved(resolved) {
      config = resolved;
      project = await TemplateProject.open({ start: start ?? config.root, types, assets });
      ids = new ModuleIds(project.folder);
    },

    buildStart() {
      // Another look may come long after the first.
      if (config.command === 'build') project.forget();
    },

    configureServer(server) {
      project.refresh();
      server.watcher.add([project.folder, ...(project.configuration ? [project.configuration] : [])]);
    },

    resolveId(source, importer) {
      if (source === templatesModule) return ids.index;
      if (source === nothingId) return nothingId;
      if (source === clientModule) {
        return isLive(this.environment) && importer !== clientId ? clientId : undefined;
      }
      if (importer !== undefined && ids.isOwn(importer) && source.startsWith('.')) {
        const path = ids.named(source, importer);
        return path === 'runtime.js'
          ? this.resolve('zip-loom/runtime', undefined, { skipSelf: true })
          : ids.ofPath(path);
      }
      // A page of Vite’s own is imported by nobody.
      const file =
        importer !== undefined && /^\.{1,2}\/.*\.html$/.test(source) ? fileNamed(source, importer) : undefined;
      return file !== undefined && project.has(file) ? ids.ofFile(file) : undefined;
    },

    load(id) {
      if (id === clientId) return developmentClient;
      if (!ids.isOwn(id)) return undefined;
      const file = ids.fileOf(id);
      const module = ids.isIndex(id) ? undefined : project.module(ids.pathOf(id));
      const [error] = project.errorsOf(file === undefined ? module?.templates : project.templatesOf(file));
      if (error) this.error(rollupError(error));
      const code = module ? module.code : codeOf(id);
      if (code === undefined) this.error(`There is no template ${ids.pathOf(id).slice(0, -'.js'.length)} any more.`);
      served.set(id, code);
      if (config.command === 'build') builtAssets.emit(code, this);
      return {
        code: ids.isIndex(id) && isLive(this.environment) ? liveIndex(code) : code,
        map: module ? module.map : null,
      };
    },

    renderChunk(code) {
      const placed = builtAssets.placed(code, config.base, this);
      return placed === undefined ? null : { code: placed, map: null };
    },

    async hotUpdate({ type, file, modules, server, read }) {
      const { environment } = this;
      const isServer = environment.config.consumer === 'server';
      // What the server’s own modules make of a page may be another now.
      if (isServer && modules.length > 0 && !project.has(file))
        server.environments.client.hot.send(changeEvent, { file });
      if (!project.concerns(file)) return undefined;
      try {
        // A file that is just being written is empty at first, and nobody tells of the rest.
        if (type !== 'delete') await read();
        // Browser and server are told one after another; the templates are the same.
        if (!isServer && file === project.configuration) await project.reopen();
        if (!isServer) project.refresh();
        const [error] = project.errors;
        if (error) throw error;
      } catch (error) {
        if (!isServer) environment.hot.send({ type: 'error', err: overlayError(error) });
        return [await nothing(environment)];
      }
      if (!isServer) environment.hot.send(changeEvent, { file });
      const changed = changedModules(environment.moduleGraph.idToModuleMap);
      // A template is no module by itself; a configuration may be one.
      const others = project.has(file) ? [] : modules;
      return [...others, ...changed, await nothing(environment)];
    },
  };

  /** A module as it is now; `undefined` where there is none any more. */
  function codeOf(id: string): string | undefined {
    return ids.isIndex(id) ? project.index(ids.fileOf(id)) : project.module(ids.pathOf(id))?.code;
  }

  /** Modules that would be written otherwise now. */
  function changedModules(modules: ReadonlyMap<string, EnvironmentModuleNode>): EnvironmentModuleNode[] {
    return [...modules].flatMap(([id, node]) => (served.has(id) && served.get(id) !== codeOf(id) ? [node] : []));
  }
}

/**
 * Where no module has changed with a file of HTML, Vite loads the whole page anew. A module that no page has loaded changes nothing, and
 * keeps it from that.
 */
function nothing({ moduleGraph }: DevEnvironment): Promise<EnvironmentModuleNode> {
  return moduleGraph.ensureEntryFromUrl(nothingId, false);
}

/** Whether a module is for a browser that somebody has open while they work. */
function isLive({ mode, config }: Environment): boolean {
  return mode === 'dev' && config.consumer === 'client';
}

/** An index that stays the same object while its templates change, so that looms made with it show the new ones. */
function liveIndex(code: string): string {
  return `${code.replace('export const built =', 'const fresh =')}
export const built = (import.meta.hot.data.built ??= fresh);
Object.assign(built, fresh);
import.meta.hot.accept(() => document.dispatchEvent(new Event('loom:templates')));
`;
}

/** The client, and what tells it of changes. */
const developmentClient = `export * from '${clientModule}';
import { followChanges } from 'zip-loom/vite/client';
followChanges(import.meta.hot);
`;
