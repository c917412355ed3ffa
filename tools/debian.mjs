// A step of its own: installs the packages of Debian that browser tests need, beside steps that don't need them.
import { ensureDebian } from './ready.mjs';

ensureDebian();
