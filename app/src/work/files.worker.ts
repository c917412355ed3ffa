/// <reference lib="webworker" />
import { expose } from 'comlink';
import { filesWork } from './files-work';

expose(filesWork);
