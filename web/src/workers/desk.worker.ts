/** Works out what the desk shows, off the main thread, and answers questions about it. */
import { expose } from 'comlink';
import { makeDeskService } from './deskService.ts';

expose(makeDeskService());
