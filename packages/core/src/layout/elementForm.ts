/** How the controller sees bytes as elements. */
export interface ElementForm {
  elementBits: 8 | 16 | 32 | 64;
  /** Whether the low bits of an element come from its first byte (little) or from its last. */
  elementOrder: 'little' | 'big';
}
