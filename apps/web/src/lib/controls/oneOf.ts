/** The option that a select element shows as this text; undefined where none of them is chosen. */
export const oneOf = <T extends string | number>(options: readonly T[], text: string): T | undefined =>
  options.find((option) => String(option) === text);
