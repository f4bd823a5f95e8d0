import { runCommand } from './cli/command.js';
import { tellFailure } from './cli/failure.js';

runCommand(process.argv.slice(2)).catch(tellFailure);
