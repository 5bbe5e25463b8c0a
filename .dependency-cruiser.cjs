/** The four layers and the arrows between them. Anything not allowed here is an error. */
const layer = (name) => `^src/${name}/`;
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  // Tests may reach for what they check against.
  from: { path: from, pathNot: '\\.test\\.ts$' },
  to: { path: '^src/', pathNot: allowed },
});

/** Folders in a line. */
const inside = { path: '^src/(core|data|server|actions)/' };

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'formats-are-adapters',
      comment:
        'Files and statements are read into the records of core/course; nothing of the trade stands on a format.',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '^src/core/formats/|\\.test\\.ts$' },
      to: { path: '^src/core/formats/' },
    },
    only('core-imports-core', layer('core'), [layer('core')]),
    {
      name: 'core-is-pure',
      comment:
        'The computation knows dates, statistics and format parsers, and nothing of the outside world.',
      severity: 'error',
      from: { path: layer('core'), pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev', 'core', 'npm-no-pkg', 'npm-unknown'],
        pathNot:
          'node_modules/(date-fns|@date-fns/tz|simple-statistics|papaparse|@types/papaparse|yup|fflate|ics|mailparser|@types/mailparser|html-to-text|@types/html-to-text)/',
      },
    },
    only('data-imports-core', layer('data'), [layer('data'), layer('core')]),
    only('server-imports-data-and-core', layer('server'), [layer('server'), layer('data'), layer('core')]),
    only('actions-import-server-and-core', layer('actions'), [
      layer('actions'),
      layer('server'),
      layer('core'),
    ]),
    only('ui-imports-core-and-actions', layer('ui'), [layer('ui'), layer('core'), layer('actions')]),
    only('app-imports', layer('app'), [
      layer('app'),
      layer('ui'),
      layer('actions'),
      layer('server'),
      layer('core'),
    ]),
    only('demo-imports', layer('demo'), [layer('demo'), layer('server'), layer('data'), layer('core')]),
    only('cli-imports', layer('cli'), [layer('cli'), layer('server'), layer('data'), layer('core')]),
    {
      name: 'no-circles-of-folders',
      comment: 'Of two folders one knows the other and not the other way round.',
      severity: 'error',
      scope: 'folder',
      from: inside,
      to: { circular: true, ...inside },
    },
    { name: 'not-to-unresolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    // Tests may reach for what they check against; that nothing imports them is for the linter.
    exclude: { path: '\\.test\\.tsx?$' },
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
