#!/usr/bin/env node
import module from 'node:module';

// What follows is compiled once, where Node (22.8 and later) keeps that.
(module as { enableCompileCache?: () => void }).enableCompileCache?.();
const { runCommandLine } = await import('./program.js');

// A reader that has seen enough (`wexlet audit | head`) is no failure.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit();
  throw error;
});

await runCommandLine(process.argv.slice(2));
