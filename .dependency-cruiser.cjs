// Cycles of the library's modules, imports of types included.
module.exports = {
  forbidden: [{ name: 'no-cycle', severity: 'error', from: {}, to: { circular: true } }],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
  },
};
