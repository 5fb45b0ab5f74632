// Plugins of the bundler, by what they may do to a run. Searched for in the shipped code of their versions of November
// 2026: none touches the settings of specs; those of the first list resolve no names but those of their own helpers.

/** Plugins that transform files, and neither resolve names, nor make modules up, nor touch the settings of specs. */
const TRANSFORMING: ReadonlySet<string> = new Set([
  'unplugin-vue-components/vite',
  '@analogjs/vite-plugin-angular',
  '@mdx-js/rollup',
  '@modyfi/vite-plugin-yaml',
  '@nx/vite/plugins/nx-copy-assets.plugin',
  '@preact/preset-vite',
  '@quasar/vite-plugin',
  '@rollup/plugin-graphql',
  '@rollup/plugin-json',
  '@rollup/plugin-yaml',
  '@sentry/vite-plugin',
  '@svgr/rollup',
  '@tailwindcss/vite',
  '@vitejs/plugin-basic-ssl',
  '@vitejs/plugin-legacy',
  '@vitejs/plugin-react',
  '@vitejs/plugin-react-swc',
  '@vitejs/plugin-vue',
  '@vitejs/plugin-vue-jsx',
  '@vitejs/plugin-vue2',
  'rollup-plugin-visualizer',
  'unplugin-auto-import/vite',
  'unplugin-element-plus/vite',
  'unplugin-vue',
  'unplugin-vue-define-options/vite',
  'vite-imagetools',
  'vite-plugin-babel',
  'vite-plugin-checker',
  'vite-plugin-circular-dependency',
  'vite-plugin-commonjs',
  'vite-plugin-compression',
  'vite-plugin-compression2',
  'vite-plugin-css-injected-by-js',
  'vite-plugin-dts',
  'vite-plugin-env-compatible',
  'vite-plugin-environment',
  'vite-plugin-externalize-deps',
  'vite-plugin-full-reload',
  'vite-plugin-html',
  'vite-plugin-image-optimizer',
  'vite-plugin-inspect',
  'vite-plugin-istanbul',
  'vite-plugin-lib-inject-css',
  'vite-plugin-markdown',
  'vite-plugin-mkcert',
  'vite-plugin-mock',
  'vite-plugin-qrcode',
  'vite-plugin-react-svg',
  'vite-plugin-relay',
  'vite-plugin-remove-console',
  'vite-plugin-require',
  'vite-plugin-restart',
  'vite-plugin-rewrite-all',
  'vite-plugin-sass-dts',
  'vite-plugin-singlefile',
  'vite-plugin-static-copy',
  'vite-plugin-string',
  'vite-plugin-svgr',
  'vite-plugin-vue-devtools',
  'vite-plugin-vue2',
  'vite-raw-plugin',
  'vite-svg-loader',
]);

/** Plugins that resolve names or make modules up, and leave the settings of specs alone. */
const RESOLVING: ReadonlySet<string> = new Set([
  '@linaria/vite',
  '@lingui/vite-plugin',
  '@nx/vite/plugins/nx-tsconfig-paths.plugin',
  '@rollup/plugin-alias',
  '@rollup/plugin-commonjs',
  '@rollup/plugin-node-resolve',
  '@tanstack/router-plugin/vite',
  '@vanilla-extract/vite-plugin',
  '@wyw-in-js/vite',
  'rollup-plugin-node-externals',
  'unplugin-vue-macros/vite',
  'vite-jsconfig-paths',
  'vite-plugin-magical-svg',
  'vite-plugin-node-polyfills',
  'vite-plugin-windicss',
  'vite-tsconfig-paths',
]);

// Read off their `resolveId` and `resolve.alias`: the imports that they take, and no others.
const STANDS_FOR: ReadonlyMap<string, string> = new Map([
  ['@preact/preset-vite', '^react(?:-dom)?(?:/|$)'],
  ['unplugin-icons/vite', '^(?:~|virtual:)icons/'],
  ['vite-plugin-vuetify', '^(?:virtual:)?(?:plugin-vuetify|vuetify/)'],
  ['vite-plugin-pages', '^(?:~|virtual:)'],
  ['vite-plugin-vue-layouts', '^virtual:'],
  ['vite-plugin-vue-meta-layouts', '^virtual:'],
  ['@unocss/vite', '^(?:virtual:)?uno(?:css)?(?:[.:/]|$)'],
  ['unocss/vite', '^(?:virtual:)?uno(?:css)?(?:[.:/]|$)'],
  ['vite-plugin-pwa', '^virtual:pwa'],
  ['unplugin-vue-router/vite', '^vue-router/auto|^virtual:'],
  ['@intlify/unplugin-vue-i18n/vite', '^(?:@intlify/|vue-i18n|virtual:)'],
]);

/** The pattern of the imports that a plugin takes. */
export const standsFor = (plugin: string): string[] => {
  const pattern = STANDS_FOR.get(plugin);
  return pattern === undefined ? [] : [pattern];
};

const BY_COMPILER: ReadonlySet<string> = new Set([
  'vite-tsconfig-paths',
  'vite-jsconfig-paths',
  '@nx/vite/plugins/nx-tsconfig-paths.plugin',
]);

/** Whether a plugin resolves names by the compiler’s `paths`, and by nothing else. */
export const readsCompilerPaths = (plugin: string): boolean => BY_COMPILER.has(plugin);

/** Whether a plugin surely resolves no names by itself, but for those that it stands for. */
export const leavesNames = (plugin: string): boolean => TRANSFORMING.has(plugin) || STANDS_FOR.has(plugin);

/** Whether a plugin surely sets nothing for specs: any other may switch globals on, or load set-up files. */
export const leavesSettings = (plugin: string): boolean =>
  TRANSFORMING.has(plugin) || RESOLVING.has(plugin) || STANDS_FOR.has(plugin);

// vite-plugin-svgr 4: `include` is `**/*.svg?react`, where nothing else is said.
const DRAWING = /svg/;

/** Whether a plugin surely makes no components of pictures that are asked for as such: `lid.svg?react`. */
export const drawsNothing = (plugin: string): boolean => leavesSettings(plugin) && !DRAWING.test(plugin);

// What may make something of a template beside its component.
const TEMPLATES = /angular|html|string|raw/;

/** Whether a plugin surely leaves templates as they are. */
export const leavesTemplates = (plugin: string): boolean => leavesSettings(plugin) && !TEMPLATES.test(plugin);

/** The plugin for React that compiles TypeScript too, and reads no compiler settings for it. */
export const SWC_PLUGIN = '@vitejs/plugin-react-swc';

/** Plugins that compile JSX for React by themselves, and choose over what the compiler’s settings say of it. */
export const REACT_PLUGINS: ReadonlySet<string> = new Set(['@vitejs/plugin-react', SWC_PLUGIN]);

const LEAVES_JSX: ReadonlySet<string> = new Set([
  'vite-plugin-svgr',
  '@vitejs/plugin-vue',
  'vite-plugin-vue-devtools',
]);
// Those that may bring the name that it becomes calls of, too.
const MAY_COMPILE_JSX = /react|jsx|babel|vue|mdx|relay|svg|angular|auto-import/;

/** Whether a plugin surely leaves JSX to the bundler. */
export const leavesJsx = (plugin: string): boolean =>
  LEAVES_JSX.has(plugin) || (leavesSettings(plugin) && !MAY_COMPILE_JSX.test(plugin));

/** Plugins that make single-file components something that runs. */
export const VUE_PLUGINS: ReadonlySet<string> = new Set([
  '@vitejs/plugin-vue',
  '@vitejs/plugin-vue2',
  'vite-plugin-vue2',
  'unplugin-vue',
]);

// What may put names into files that do not have them.
const MAY_BRING_NAMES = /auto-import|macro|babel|relay|lingui|linaria|wyw|polyfill|env|require|nx|analog/;

/** Whether a plugin surely puts no names into files that neither import nor declare them. */
export const bringsNoNames = (plugin: string): boolean =>
  leavesSettings(plugin) && !MAY_BRING_NAMES.test(plugin);

const PLAIN_BABEL =
  /^(?:@babel\/|(?:module:)?(?:babel-preset-)?(?:react-app|next\/babel|jest)$|babel-plugin-istanbul$)/;

/** Whether a plugin or preset of Babel surely puts no such names into files. */
export const babelBringsNoNames = (name: string): boolean => PLAIN_BABEL.test(name);
