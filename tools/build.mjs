// Builds what is stale for npm test, where it goes on beside other checks.
import { ensureBuild } from './ready.mjs';

ensureBuild();
