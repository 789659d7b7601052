/** Import rules: core stands alone, and inside core the data flows one way. */
const layers = [
  'problem',
  'zip',
  'number',
  'calendar',
  'shape',
  'series',
  'table',
  'vector',
  'reading',
  'measure',
  'form',
  'brief',
  'report',
  'edit',
  'query',
  'source',
  'format',
  'ruler',
  'highlight',
  'scene',
  'figure',
  'suggestion',
  'page',
  'level',
  'reckoning',
  'handover',
  'print',
  'office',
  'comparison',
  'workspace',
  'desk',
];

/** What a form says of itself lies in its folder, and rests on nothing that draws. */
const DECLARATIONS = '^core/src/figure/[a-z]+/declared\\.ts$';

/** A folder of core may import only itself and the folders before it in the list. */
const downwards = layers.map((layer, index) => ({
  name: `core-${layer}-imports-only-downwards`,
  severity: 'error',
  // A test may look up to see its folder at work.
  from: { path: `^core/src/${layer}/`, pathNot: '\\.(test|fixture)\\.ts$' },
  to: {
    path: `^core/src/(${layers.slice(index + 1).join('|') || 'nothing'})/`,
    ...(layer === 'form' ? { pathNot: DECLARATIONS } : {}),
  },
}));

/** The folders of the application, each resting on those before it. */
const webLayers = ['ui', 'storage', 'worker', 'store', 'fields', 'intake', 'steps', 'shell', 'app'];
/** The steps of the work know nothing of one another, but that pages show figures. */
const steps = ['data', 'numbers', 'figures', 'page'];
const foldersOf = (layer) => ({ steps, shell: ['shell', 'start'] })[layer] ?? [layer];

const webDownwards = webLayers.map((layer, index) => ({
  name: `web-${layer}-imports-only-downwards`,
  severity: 'error',
  from: { path: `^web/src/(${foldersOf(layer).join('|')})/` },
  to: {
    path: `^web/src/(${[...webLayers.slice(index + 1).flatMap(foldersOf), 'nothing'].join('|')})/`,
  },
}));
const apart = steps.map((step) => ({
  name: `web-${step}-stands-apart`,
  severity: 'error',
  from: { path: `^web/src/${step}/` },
  to: {
    path: `^web/src/(${steps.filter((one) => one !== step && !(step === 'page' && one === 'figures')).join('|')})/`,
  },
}));

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/src', pathNot: '\\.(test|fixture)\\.ts$' },
      to: { path: '^(cli|web|demo|bench)/|node_modules/(react|react-dom|next|dexie|comlink)/' },
    },
    {
      name: 'core-without-node',
      severity: 'error',
      from: { path: '^core/src', pathNot: '\\.(test|fixture)\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'web-does-not-import-the-command-line',
      severity: 'error',
      from: { path: '^web/src' },
      // But its server, which reaches databases as the command line does.
      to: { path: '^(cli|bench)/', pathNot: '^cli/src/databases/' },
    },
    {
      name: 'only-the-server-reaches-databases',
      severity: 'error',
      from: { path: '^web/src', pathNot: '^web/src/server/' },
      to: { path: '^cli/' },
    },
    {
      name: 'nothing-unresolved',
      severity: 'error',
      from: {},
      to: { couldNotResolve: true, pathNot: '^(server-only)$' },
    },
    ...downwards,
    {
      name: 'what-a-form-says-of-itself-rests-on-nothing-that-draws',
      severity: 'error',
      from: { path: DECLARATIONS },
      to: { path: '^core/src/', pathNot: ['^core/src/(form|shape)/', DECLARATIONS] },
    },
    ...webDownwards,
    ...apart,
    {
      // Reading and querying compile WebAssembly, which a page’s policy forbids: they run in workers, and a page knows their types only.
      name: 'pages-leave-reading-and-querying-to-workers',
      severity: 'error',
      from: {
        path: `^web/src/(${webLayers
          .filter((layer) => layer !== 'worker')
          .flatMap(foldersOf)
          .join('|')})/`,
        pathNot: '\\.test\\.ts$',
      },
      to: {
        path: '^core/src/(workspace|source|desk)/|^web/src/worker/(filesOfTable|keeping|grid|elsewhere)\\.ts$',
        dependencyTypesNot: ['type-only'],
      },
    },
    {
      name: 'web-page-program-and-server-stand-alone',
      severity: 'error',
      from: { path: '^web/src/(handed|server)/' },
      to: { path: `^web/src/(${webLayers.flatMap(foldersOf).join('|')})/` },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.next|dist' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.imports.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.d.ts', '.json'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
