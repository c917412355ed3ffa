// npm run dev: the application with live reload, without the strict headers of the real server.
import { ensureModules, root, run, tool } from './ready.mjs';

ensureModules({ tests: false });
run(process.execPath, ['tools/build-worklet.mjs'], { cwd: root });
run(tool('ng'), ['serve', '--port', process.env.PORT ?? '4200']);
