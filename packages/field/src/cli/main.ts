import { Command, InvalidArgumentError, Option } from 'commander';
import { Problem } from '@fadenkreuz/core';
import { runBench } from './bench.js';
import { runExchange, type ExchangeCommand } from './exchange.js';
import { runCheck } from './check.js';
import { runDescribe } from './describe.js';
import { runHandover } from './handover.js';
import { plannedFault } from './faultArgument.js';
import { exitCodes } from './output.js';
import { runParameters } from './parameters.js';
import { runRoles } from './roles.js';
import { runStandIns } from './standIns.js';

function seconds(text: string): number {
  const value = Number(text);
  if (!Number.isFinite(value) || value <= 0 || value > 86_400)
    throw new InvalidArgumentError('Give seconds, more than 0 and at most 86400.');
  return value;
}

function count(text: string): number {
  const value = Number(text);
  if (!Number.isInteger(value) || value < 1 || value > 100_000)
    throw new InvalidArgumentError('Give a whole number from 1 to 100000.');
  return value;
}

const cellArgument = ['<cell>', 'a cell file, or "demo"'] as const;
const faultOption = [
  '--fault <fault>',
  'inject a fault: DEVICE:FAULT[,key=value…][@FROM[-TO]] in seconds; may be given again',
  plannedFault,
] as const;
const reachOption = [
  '--reach <subnet>',
  'devices without a stand-in are reached as planned in this subnet; may be given again',
  (subnet: string, before: string[] = []) => [...before, subnet],
] as const;
const jsonOption = ['--json', 'one JSON value per line'] as const;
let exitCode: number = exitCodes.done;
const verb =
  <O>(run: (cell: string, options: O) => Promise<number>) =>
  async (cell: string, options: O) => {
    exitCode = await run(cell, options);
  };

const program = new Command('fadenkreuz')
  .description(
    'Works on a cell without the web application. Exit 0 done, 1 findings or failed checks, 2 bad input.',
  )
  .exitOverride();
program
  .command('check')
  .description('say what the checks find; notices alone exit with 0')
  .argument(...cellArgument)
  .option(...jsonOption)
  .action(verb(runCheck));
program
  .command('describe')
  .description(
    'say how a description file (EDS, GSDML, IODD, or our own) is understood, and what is wrong with it',
  )
  .argument('<file>', 'the description file')
  .option('--language <language>', 'read its texts in this language, where it has it')
  .option(...jsonOption)
  .action(verb(runDescribe));
program
  .command('stand-ins')
  .description('run the simulated devices; a line per endpoint when it is ready')
  .argument(...cellArgument)
  .option(...jsonOption)
  .option('--for <seconds>', 'end after this time', seconds)
  .option(...faultOption)
  .action(verb(runStandIns));
program
  .command('bench')
  .description('run simulated devices and originator; a line per connection at the end')
  .argument(...cellArgument)
  .option(...jsonOption)
  .requiredOption('--for <seconds>', 'how long', seconds)
  .option('--capture <file>', 'write the traffic as pcapng')
  .option(...faultOption)
  .option(...reachOption)
  .action(verb(runBench));
program
  .command('parameters')
  .description('parameters of a device: planned, read, compared with a file, or written from one')
  .argument(...cellArgument)
  .option(...jsonOption)
  .requiredOption('--device <name>', 'the device')
  .option('--read', 'read all of them')
  .addOption(
    new Option('--compare <file>', 'read, and say what differs from this file').conflicts(['write', 'read']),
  )
  .addOption(
    new Option('--write <file>', 'write the values of this file, and read them back').conflicts('read'),
  )
  .option(...reachOption)
  .action(verb(runParameters));
program
  .command('exchange')
  .description('run an exchange; a line a run. Without a name: list the exchanges of the cell')
  .argument(...cellArgument)
  .argument('[name]', 'the exchange')
  .option(...jsonOption)
  .option('--times <count>', 'how often', count, 1)
  .option('--set <name=value...>', 'values of its variables')
  .option(...reachOption)
  .action(async (cell: string, name: string | undefined, options: ExchangeCommand) => {
    exitCode = await runExchange(cell, name, options);
  });
program
  .command('roles')
  .description('say what fields and bits are for: roles that are given, and those that are proposed')
  .argument(...cellArgument)
  .option(...jsonOption)
  .action(verb(runRoles));
program
  .command('handover')
  .description('write controller code, signal list and cell file')
  .argument(...cellArgument)
  .option(...jsonOption)
  .requiredOption('--out <dir>', 'folder to write to')
  .action(verb(runHandover));

// Whoever reads may have read enough: `| head` is no error.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
  process.exit(exitCodes.done);
});

try {
  await program.parseAsync();
} catch (error) {
  const { code, exitCode: wanted } = error as { code?: string; exitCode?: number };
  if (error instanceof Problem) {
    const json = process.argv.includes('--json');
    process.stderr.write((json ? JSON.stringify(error.report()) : `${error.message} ${error.cure}`) + '\n');
    exitCode =
      error.code.startsWith('standIn.') || error.code.startsWith('bench.')
        ? exitCodes.findings
        : exitCodes.badInput;
  } else if (code?.startsWith('commander.')) {
    exitCode = wanted === 0 ? exitCodes.done : exitCodes.badInput;
  } else {
    throw error;
  }
}
process.exitCode = exitCode;
