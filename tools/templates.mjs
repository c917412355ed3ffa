// Checks the types of the application's templates. Angular's own command would also check every other expression, which
// lint does already: 54 s of CPU time instead of 28 s.
import { exitCodeFromResult, formatDiagnostics, performCompilation, readConfiguration } from '@angular/compiler-cli';
import { join } from 'node:path';
import { root } from './ready.mjs';

const { rootNames, options, errors } = readConfiguration(join(root, 'app', 'tsconfig.app.json'), { noEmit: true });
const { diagnostics } = performCompilation({
  rootNames,
  options,
  gatherDiagnostics: (program) => [
    ...errors,
    ...program.getNgOptionDiagnostics(),
    ...program.getNgStructuralDiagnostics(),
    ...program.getNgSemanticDiagnostics(),
  ],
});
if (diagnostics.length > 0) console.error(formatDiagnostics(diagnostics));
process.exit(exitCodeFromResult(diagnostics));
