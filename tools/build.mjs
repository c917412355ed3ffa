// Builds what is stale for npm test, where it goes on beside other checks, and checks the types of templates on the way.
import { ensureBuild } from './ready.mjs';

ensureBuild({ checked: true });
