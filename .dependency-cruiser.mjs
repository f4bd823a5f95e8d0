/** Which way the arrows run (docs/architecture.md): every room knows only those named for it, and nothing runs in a circle. */

/** Rooms of the core from top to bottom: each may know those below it. Rooms in one list do not know each other. */
const CORE = [
  ['sheet'],
  ['words'],
  ['rehearse'],
  ['day'],
  ['bench'],
  ['plan'],
  ['findings'],
  ['reading'],
  ['question'],
  ['questions'],
  ['compare'],
  ['checks'],
  ['restriction'],
  ['judge'],
  ['pull'],
  ['simulate'],
  ['log'],
  ['channels'],
  ['filter', 'cooler', 'compressor', 'opening', 'road', 'roller'],
  ['flow', 'demand'],
  ['correction'],
  ['air'],
  ['formula'],
  ['traces'],
  ['format'],
  ['units'],
  ['numeric', 'text'],
];
const SERVER = [
  ['cli'],
  ['http'],
  ['access', 'print'],
  ['work'],
  ['day'],
  ['staging'],
  ['import'],
  ['board'],
  ['analysis'],
  ['reading'],
  ['store'],
  ['bundle'],
  ['database'],
];
const WEB = [['app'], ['features'], ['parts'], ['model'], ['shared']];

const upwards = (place, rooms) =>
  rooms.flatMap((level, i) =>
    level.map((room) => ({
      name: `${place}: ${room} knows nothing above or beside it`,
      severity: 'error',
      from: { path: `^${place}/${room}/` },
      to: { path: `^${place}/(${[...rooms.slice(0, i).flat(), ...level.filter((other) => other !== room)].join('|') || '-'})/` },
    })),
  );

export default {
  forbidden: [
    { name: 'no circles', severity: 'error', from: {}, to: { circular: true } },
    ...upwards('core/src', CORE),
    ...upwards('server/src', SERVER),
    ...upwards('web/src', WEB),
    {
      name: 'a feature knows no other feature',
      severity: 'error',
      from: { path: '^web/src/features/([^/]+)/' },
      to: { path: '^web/src/features/', pathNot: '^web/src/features/$1/' },
    },
    { name: 'the contract knows nothing', severity: 'error', from: { path: '^contract/' }, to: { path: '^(core|server|web)/' } },
    {
      name: 'the core knows the contract alone',
      severity: 'error',
      from: { path: '^core/src' },
      to: { path: '^(server|web|demo|bench)/' },
    },
    { name: 'the server knows no page', severity: 'error', from: { path: '^server/src' }, to: { path: '^web/' } },
    { name: 'the pages know no server', severity: 'error', from: { path: '^web/src' }, to: { path: '^server/' } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(node_modules|dist|\\.css$)' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'], extensions: ['.ts', '.js', '.vue'] },
  },
};
