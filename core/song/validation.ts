import * as z from 'zod';

// Every file that makes schemas imports this one first: under the application's content security policy no text may be
// compiled into code, and the library would try.
z.config({ jitless: true });
