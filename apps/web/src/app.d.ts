declare global {
  namespace App {
    interface Error {
      message: string;
      /** Nothing is wrong but that a part is away just now. */
      away?: boolean;
    }
  }
}

export {};
