#!/usr/bin/env node
import { run } from '../dist/main.js';

// Whoever reads has had enough: no fault of anybody's.
process.stdout.on('error', (error) => {
  if (error.code !== 'EPIPE') throw error;
  process.exit();
});
process.exitCode = await run(process.argv.slice(2));
