import 'vitest';

// What launch/src/testDatabase.ts provides to the tests of this application.
declare module 'vitest' {
  export interface ProvidedContext {
    databaseUrl: string;
  }
}
