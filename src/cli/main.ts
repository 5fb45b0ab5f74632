#!/usr/bin/env node
import { runCommandLine } from './program.js';

// A reader that has seen enough (`wexlet audit | head`) is no failure.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit();
  throw error;
});

await runCommandLine(process.argv.slice(2));
