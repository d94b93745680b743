/** The directions of architecture.md: an import that runs the wrong way fails the lint step. */
const tests = '\\.(test|spec)\\.tsx?$|/testing/'

/** Folders in reading order: each imports only those named before it. */
const inOrder = {
  core: [
    'problems',
    'site',
    'language',
    'markup',
    'pictures',
    'colours',
    'style',
    'plan',
    'naming',
    'texts',
    'links',
    'template',
    'find',
    'spelling',
    'kit',
    'build',
    'change',
    'bringing',
    'graph',
    'weighing',
    'findings',
    'delivery',
  ],
  server: [
    'platform',
    'contents',
    'accounts',
    'sites',
    'kits',
    'bringing',
    'deliveries',
    'notes',
    'archives',
    'preview',
  ],
}
const readingOrder = Object.entries(inOrder).flatMap(([layer, folders]) =>
  folders.slice(0, -1).map((folder, index) => ({
    name: `${layer}-reading-order`,
    severity: 'error',
    from: { path: `^${layer}/${folder}/`, pathNot: tests },
    to: { path: `^${layer}/(${folders.slice(index + 1).join('|')})/` },
  })),
)
module.exports = {
  forbidden: [
    {
      name: 'no-cycles',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    ...readingOrder,
    {
      name: 'server-one-door',
      comment: 'A room of the server is entered by its index.ts.',
      severity: 'error',
      from: { path: '^(app|demo|bench|bin|server/([^/]+))/', pathNot: tests },
      to: {
        path: '^server/(platform|contents|accounts|sites|kits|bringing|deliveries|notes|archives|preview)/(?!index\\.ts$)',
        pathNot: '^server/$2/',
      },
    },
    {
      name: 'core-stands-alone',
      comment: 'The core knows nothing of the server, the interface, Node or its packages.',
      severity: 'error',
      from: { path: '^core/', pathNot: `${tests}|/input\\.ts$|/inputs\\.ts$|\\.input\\.ts$` },
      to: {
        path: '^(app|server|demo|e2e|practice-host|bin)/|node_modules/(react|pg|express|ssh2|joi)',
        pathNot: '^core/',
      },
    },
    {
      name: 'inputs-not-in-browser',
      comment: 'What validates what comes from outside is for the server alone.',
      severity: 'error',
      from: { path: '^app/', pathNot: '^app/(routes/answers/schemes\\.ts|.*\\.server\\.ts)' },
      to: { path: '^core/change/inputs\\.ts$' },
    },
    {
      name: 'core-has-no-node',
      severity: 'error',
      from: { path: '^core/', pathNot: tests },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-one-door',
      comment: 'A folder of the core is entered by its index.ts.',
      severity: 'error',
      from: { path: '^(app|server|demo|e2e|core/([^/]+))/', pathNot: tests },
      to: { path: '^core/([^/]+)/(?!index\\.ts$)', pathNot: '^core/($2/|change/inputs\\.ts$)' },
    },
    {
      name: 'server-below-app',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^(app|demo|e2e|bin)/' },
    },
    {
      name: 'practice-host-stands-alone',
      severity: 'error',
      from: { path: '^practice-host/' },
      to: { path: '^(app|server|core|demo|e2e|bin)/' },
    },
    {
      name: 'server-not-in-browser',
      comment:
        'Components take types from the server, never code; routes reach it in loaders and actions only.',
      severity: 'error',
      from: { path: '^app/', pathNot: '^app/(routes/|edge/|host\\.ts|entry\\.server|.*\\.server\\.ts)' },
      to: { path: '^server/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'only-the-pool-knows-pg',
      severity: 'error',
      from: {
        path: '^(app|server)/',
        pathNot: '^server/(platform/(pool|jobs|limits)\\.ts|testing/.*|.*\\.spec\\.ts)$',
      },
      to: { path: 'node_modules/pg(-boss)?/', dependencyTypesNot: ['type-only'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^build/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
}
