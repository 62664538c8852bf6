/** Imports run one way: interface → engine → core; server → core; standins → core and the engine's drivers. */
const only = (name, from, to) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.ts$' },
  to: { path: '^(core|engine|interface|server|standins|tests|scripts)/', pathNot: to },
});

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    only('core-imports-nothing-else', '^core/', '^core/'),
    only('engine-imports-core', '^engine/', '^(core|engine)/'),
    only('server-imports-core-and-what-it-simulates', '^server/', '^(core|server)/|^standins/(data|devices)/'),
    only(
      'standins-import-core-and-drivers',
      '^standins/',
      '^(core|standins)/|^engine/(capture/|control/(driver|panel-channel)|guests/driver|sound/(chunk|device-driver)|worker-scope)',
    ),
    only(
      'interface-imports-engine-and-core',
      '^interface/(?!main\\.tsx|wiring/)',
      '^(core|engine|interface)/|^standins/(show/demo-name|devices/pier|audience/feed|guests/people|peers/)',
    ),
    // Inside core: the ground first, then each domain's document, air and migrations, then what works on the whole desk.
    only('core-ground-stands-alone', '^core/(schema|time)/', '^core/(schema|time)/'),
    only(
      'core-documents-know-documents',
      '^core/(?!desk/)(?:graphics/animation|[a-z]+)/(document|air|migrations|source|surface|strip|look|geometry|raster|moves|element|fill)\\.ts',
      '^core/(schema|time)/|^core/(?!desk/)(?:graphics/animation|[a-z]+)/(document|air|migrations|source|surface|strip|look|geometry|raster|level|moves|element|fill|limits)\\.ts',
    ),
    {
      name: 'core-commands-come-together-in-the-registry',
      severity: 'error',
      from: { path: '^(core|engine|interface|server|standins)/', pathNot: '\\.test\\.ts$|^core/desk/registry\\.ts' },
      to: { path: '^core/.*commands\\.ts$' },
    },
    // Rooms see a client of the show; only the shell opens one that runs here.
    {
      name: 'rooms-see-a-client-not-the-host',
      severity: 'error',
      from: { path: '^interface/(?!shell/open-show|wiring/show-engine|main)' },
      to: { path: '^engine/(host|remote)/' },
    },
    only('client-is-no-host', '^engine/client/', '^core/|^engine/(?!host/)'),
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/(?!.*\\.test\\.ts)' },
      to: { dependencyTypes: ['npm', 'core'], pathNot: 'node_modules/(class-validator|reflect-metadata|immer|papaparse)/' },
    },
    {
      name: 'no-tests-in-product',
      severity: 'error',
      from: { pathNot: '\\.test\\.ts$|^(tests|scripts)/' },
      to: { path: '\\.test\\.ts$|^tests/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'browser', 'default'] },
  },
};
