// The one-way order of the rooms: imports only ever point down.
const below = {
  core: [],
  contract: ['core'],
  rulebooks: [],
  standins: ['rulebooks'],
  demo: ['core', 'rulebooks'],
  server: ['core', 'contract', 'demo', 'rulebooks'],
  web: ['core', 'contract'],
};
const rooms = Object.keys(below);
const test = '\\.test\\.tsx?$|/tests/';
module.exports = {
  forbidden: [
    ...rooms.map((room) => ({
      name: `${room}-looks-down-only`,
      severity: 'error',
      from: { path: `^${room}/`, pathNot: test },
      to: { path: `^(${rooms.filter((r) => r !== room && !below[room].includes(r)).join('|')}|e2e|bench|scripts)/` },
    })),
    {
      name: 'core-uses-few-packages',
      severity: 'error',
      from: { path: '^core/', pathNot: test },
      to: {
        path: 'node_modules',
        pathNot:
          'node_modules/(zod|decimal\\.js|papaparse|@types/papaparse|date-fns|fflate|saxes|get-east-asian-width|parse5|re2js|sanitize-html|jsep|@types/sanitize-html|@types/node)/',
      },
    },
    {
      name: 'contract-uses-few-packages',
      severity: 'error',
      from: { path: '^contract/', pathNot: test },
      to: { path: 'node_modules', pathNot: 'node_modules/zod/' },
    },
    {
      name: 'core-has-no-io',
      severity: 'error',
      from: { path: '^(core|contract)/', pathNot: test },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'the-stand-in-judges-by-itself',
      severity: 'error',
      from: { path: '^standins/', pathNot: test },
      to: { path: '^core/' },
    },
    {
      name: 'a-feature-of-the-server-is-reached-by-its-face',
      severity: 'error',
      from: { path: '^server/([^/]+)/', pathNot: test },
      to: { path: '^server/[^/]+/', pathNot: ['^server/$1/', '^server/[^/]+/index[.]ts$'] },
    },
    {
      name: 'the-server-puts-together-what-features-show',
      severity: 'error',
      from: { path: '^server/[^/]+$', pathNot: test },
      to: { path: '^server/[^/]+/', pathNot: '^server/[^/]+/index[.]ts$' },
    },
    {
      name: 'each-workspace-declares-what-it-uses',
      severity: 'error',
      from: { path: `^(${rooms.join('|')})/`, pathNot: `${test}|^demo/files/` },
      to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown', 'npm-dev'], pathNot: 'node_modules/@types/' },
    },
    {
      name: 'no-cycles',
      severity: 'error',
      from: { pathNot: test },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.json'],
    },
    exclude: { path: '(^|/)dist/|\\.build/' },
  },
};
