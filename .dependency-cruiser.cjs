/** The walls of the house. Imports run one way: views → parts → core; views → guided → world → analyst → the store → core; guided → sound. */
const core = '^src/core/([^/]+)/';
/** Everybody may take the clock: it knows nobody. */
const clock = '^src/app/world/clock\\.ts$';
/** What is said between the page and its workers: types alone. */
const wire = '^src/app/(sound/messages|analyst/correspondent)\\.ts$';
/** The log's store, which the page and the analyst both open. */
const store = '^src/app/store/';
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-knows-nobody-outside',
      severity: 'error',
      from: { path: '^src/core/' },
      to: { path: '^(src/(app|door|server)|demo|bench|e2e)/' },
    },
    {
      name: 'core-has-no-interface-or-storage',
      severity: 'error',
      from: { path: '^src/core/' },
      to: { path: 'node_modules/(react|react-dom|react-router|localforage|express|@tanstack|@headlessui|plotly)' },
    },
    {
      name: 'core-runs-anywhere',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-folders-by-their-front-door',
      severity: 'error',
      from: { path: core },
      to: { path: core, pathNot: ['^src/core/$1/', '^src/core/[^/]+/index\\.ts$'] },
    },
    {
      name: 'others-by-the-front-door-too',
      severity: 'error',
      from: { path: '^(src/(app|door|server)|demo|e2e|testing)/' },
      to: { path: core, pathNot: '^src/core/[^/]+/index\\.ts$' },
    },
    {
      name: 'views-do-not-import-one-another',
      severity: 'error',
      from: { path: '^src/app/views/([^/]+)/' },
      to: { path: '^src/app/(shell/|views/(?!$1/))' },
    },
    {
      name: 'parts-are-below-views-and-world',
      severity: 'error',
      from: { path: '^src/app/parts/' },
      to: { path: '^src/app/(views|shell|guided|keys|world|sound|analyst)/', pathNot: clock },
    },
    {
      name: 'guided-and-keys-are-below-the-views',
      severity: 'error',
      from: { path: '^src/app/(guided|keys)/' },
      to: { path: '^src/app/(views|shell)/' },
    },
    {
      name: 'world-knows-records-only',
      severity: 'error',
      from: { path: '^src/app/world/' },
      to: { path: '^src/app/(views|shell|guided|keys|parts|sound)/', pathNot: wire },
    },
    {
      name: 'the-database-knows-records-only',
      severity: 'error',
      from: { path: store },
      to: { path: '^src/app/', pathNot: [clock, store] },
    },
    {
      name: 'sound-goes-to-workers',
      severity: 'error',
      from: { path: '^src/app/sound/' },
      to: { path: '^src/app/(views|shell|guided|keys|parts|world|analyst)/', pathNot: [clock, wire] },
    },
    { name: 'the-clock-knows-nobody', severity: 'error', from: { path: clock }, to: {} },
    {
      name: 'nobody-needs-a-bench-or-a-test',
      severity: 'error',
      from: { path: '^(src|demo)/', pathNot: '\\.test\\.tsx?$' },
      to: { path: '^(bench|e2e|testing)/' },
    },
    {
      name: 'workers-are-thin-doors-to-the-core',
      severity: 'error',
      from: { path: '^src/app/(analyst/|sound/listen)' },
      to: { path: '^src/app/(views|shell|guided|keys|parts|world)/', pathNot: store },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
  },
};
