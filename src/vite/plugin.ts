/** The plugin: templates are modules, for the server and for the browser. */
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { EnvironmentModuleNode, Plugin, ResolvedConfig } from 'vite';
import type { NodeLoomOptions } from '../node/index.ts';
import { assetMap } from './asset-map.ts';
import { overlayError, rollupError } from './error-payload.ts';
import { fileOf, modulePath, TemplateProject } from './template-project.ts';

export interface ZipLoomOptions {
  /** A folder of the project; its configuration is looked for from there upwards. Default: the root of Vite. */
  project?: string;
  /** Where the types of pages go, from the project’s folder; `false` for nowhere. Default: `templates.d.ts`. */
  types?: string | false;
}

/** What scripts import all templates from. */
const templatesModule = 'zip-loom/templates';
/** What scripts import the client from; in development it is told of changed templates. */
const clientModule = 'zip-loom/client';

/** Modules that are made here bear this mark, which keeps other plugins away (a convention of Rollup). */
const made = '\0zip-loom:';
const clientId = `${made}client`;

/** What the browser is told when templates have changed and nothing is wrong with them. */
const changeEvent = 'zip-loom:change';

/**
 * Makes templates importable, builds them ahead, and merges changed ones into open pages.
 * @example export default defineConfig({ plugins: [zipLoom()] });
 */
export function zipLoom({ project: start, types = 'templates.d.ts' }: ZipLoomOptions = {}): Plugin {
  let config: ResolvedConfig;
  let project: TemplateProject;
  /** The code of each module as it was last handed out, in development. */
  const served = new Map<string, string>();
  /** Files that built templates name, by the mark that stands for their URLs until those are known. */
  const marked = new Map<string, string>();
  const emitted = new Map<string, string>();
  // A site may use the templates of several projects, each with a plugin of its own.
  let [prefix, indexId, only] = ['', '', ''];

  /** In development all files are where Vite serves them; in a build those that the configuration does not place are built. */
  const assets = (options: NodeLoomOptions): ReadonlyMap<string, string> | undefined => {
    const isBuild = config.command === 'build';
    if (isBuild && options.assets !== undefined) return undefined;
    const base = options.base === undefined ? config.base : '/';
    const folders = { root: config.root, publicFolder: config.publicDir, without: [project?.folder ?? ''] };
    return assetMap(folders, base, isBuild ? markOf : undefined);
  };
  const markOf = (file: string, path: string): string | undefined => {
    // Scripts and styles are what they are only after Vite has worked on them; the manifest names them.
    if (/\.(?:[cm]?[jt]sx?|css|less|s[ac]ss|styl|html|json)$/.test(path)) return undefined;
    const mark = `__zip_loom_asset_${Buffer.from(path).toString('hex')}__`;
    marked.set(mark, file);
    return mark;
  };

  return {
    name: 'zip-loom',
    enforce: 'pre',
    api: { assets: () => assets({}) },

    config: () => ({ optimizeDeps: { exclude: ['zip-loom'] } }),

    async configResolved(resolved) {
      config = resolved;
      project = await TemplateProject.open({ start: start ?? config.root, types, assets });
      prefix = `${made}${project.folder}:`;
      indexId = `${prefix}index.js`;
      only = `${prefix}only:`;
    },

    buildStart() {
      if (config.command === 'build') project.refresh();
      if (config.command === 'build' && this.environment.config.build.watch) this.addWatchFile(project.folder);
    },

    configureServer(server) {
      server.watcher.add([project.folder, ...(project.configuration ? [project.configuration] : [])]);
    },

    async resolveId(source, importer) {
      if (source === templatesModule) return indexId;
      if (source === clientModule && config.command === 'serve' && importer !== clientId) {
        const isBrowser = this.environment.config.consumer === 'client';
        return isBrowser ? clientId : undefined;
      }
      if (importer?.startsWith(prefix) && source.startsWith('.')) {
        const path = modulePath(importer.startsWith(only) ? '' : importer.slice(prefix.length), source);
        return path === 'runtime.js' ? this.resolve('zip-loom/runtime', undefined, { skipSelf: true }) : prefix + path;
      }
      if (importer && /^\.{1,2}\/.*\.html$/.test(source)) {
        const file = fileOf(importer, source);
        // A page of Vite’s own is imported by nobody.
        if (project.has(file)) return `${only}${file}.js`;
      }
      return undefined;
    },

    async load(id) {
      if (id === clientId) return developmentClient;
      if (!id.startsWith(prefix)) return undefined;
      const isIndex = id === indexId || id.startsWith(only);
      const file = id.startsWith(only) ? id.slice(only.length, -'.js'.length) : undefined;
      const module = isIndex ? undefined : project.module(id.slice(prefix.length));
      const templates = file === undefined ? module?.templates : project.templatesOf(file);
      const [error] = project.errorsOf(templates);
      if (error) this.error(rollupError(error));
      if (!isIndex && !module) this.error(`There is no template ${id.slice(prefix.length, -'.js'.length)} any more.`);
      const code = module ? module.code : project.index(file);
      served.set(id, code);
      for (const [mark, asset] of marked) {
        if (!code.includes(mark) || emitted.has(mark)) continue;
        const emit = {
          type: 'asset',
          name: basename(asset),
          originalFileName: asset,
          source: readFileSync(asset),
        } as const;
        emitted.set(mark, this.emitFile(emit));
      }
      const isLive = isIndex && config.command === 'serve' && this.environment.config.consumer === 'client';
      return { code: isLive ? liveIndex(code) : code, map: module ? module.map : null };
    },

    renderChunk(code) {
      if (!code.includes('__zip_loom_asset_')) return null;
      const placed = code.replace(/__zip_loom_asset_[0-9a-f]+__/g, (mark) => {
        const reference = emitted.get(mark);
        return reference === undefined ? mark : config.base + this.getFileName(reference);
      });
      return { code: placed, map: null };
    },

    async hotUpdate({ file, modules }) {
      if (!project.concerns(file)) return undefined;
      const { environment } = this;
      // Each environment is told; the templates are the same for all.
      if (environment.config.consumer === 'client') {
        try {
          if (file === project.configuration) await project.reopen();
          else project.refresh();
        } catch (error) {
          environment.hot.send({ type: 'error', err: overlayError(error) });
          return [];
        }
      }
      const [error] = project.errors;
      if (error) {
        if (environment.config.consumer === 'client') environment.hot.send({ type: 'error', err: overlayError(error) });
        return [];
      }
      environment.hot.send(changeEvent, { file });
      const changed = changedModules(environment.moduleGraph.idToModuleMap);
      return [...modules.filter(({ id }) => id !== file), ...changed];
    },
  };

  /** Modules that would be written otherwise now. */
  function changedModules(modules: ReadonlyMap<string, EnvironmentModuleNode>): EnvironmentModuleNode[] {
    return [...modules].flatMap(([id, node]) => {
      const before = served.get(id);
      if (before === undefined) return [];
      const file = id.startsWith(only) ? id.slice(only.length, -'.js'.length) : undefined;
      const isIndex = id === indexId || file !== undefined;
      const now = isIndex ? project.index(file) : project.module(id.slice(prefix.length))?.code;
      return now === before ? [] : [node];
    });
  }
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
