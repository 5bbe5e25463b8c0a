/** Folders in a line: of two, one knows the other and not the other way round. Tests may reach for what they check against. */
const inside = { path: '^src/(core|data|server|actions)/' };

module.exports = {
  forbidden: [
    {
      name: 'no-circles-of-folders',
      severity: 'error',
      scope: 'folder',
      from: inside,
      to: { circular: true, ...inside },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.test\\.tsx?$' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
  },
};
