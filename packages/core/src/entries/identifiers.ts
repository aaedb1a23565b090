/**
 * Keywords of IEC 61131-3:2013 (table 4 and the elementary type names) that a device or field name is likely to meet.
 */
const keywords = new Set(
  `ABS AND ARRAY AT BOOL BY BYTE CASE CONFIGURATION CONSTANT CONTINUE DATE DINT DO DT DWORD ELSE ELSIF END_CASE END_FOR
  END_FUNCTION END_IF END_PROGRAM END_REPEAT END_STRUCT END_TYPE END_VAR END_WHILE EXIT FALSE FOR FROM FUNCTION
  FUNCTION_BLOCK GET IF INT INTERVAL INITIAL_STEP LINT LREAL LWORD METHOD MOD NOT NULL OF ON OR PRIORITY PROGRAM REAL
  REPEAT RESOURCE RETAIN RETURN SINGLE SINT STEP STRING STRUCT TASK THEN TIME TO TOD TRANSITION TRUE TYPE UDINT UINT
  ULINT UNTIL USING USINT VAR WHILE WITH WORD WSTRING XOR`.split(/\s+/),
);

const folded: Record<string, string> = {
  ä: 'ae',
  ö: 'oe',
  ü: 'ue',
  Ä: 'Ae',
  Ö: 'Oe',
  Ü: 'Ue',
  ß: 'ss',
  ø: 'o',
  æ: 'ae',
};

/**
 * A name as an identifier of IEC 61131-3 (6.1.2): letters, digits and single underscores, no digit first, no keyword.
 * A legal name stays as it is.
 */
export function identifierOf(name: string): string {
  const ascii = name.replace(/[äöüÄÖÜßøæ]/g, (c) => folded[c]!).normalize('NFKD');
  const plain = ascii
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9_]+/g, '_')
    .replace(/_{2,}/g, '_')
    .replace(/(?<=.)_$/, '');
  const first = /^[A-Za-z_]/.test(plain) && plain !== '_' ? plain : `n_${plain.replace(/^_/, '')}`;
  const whole = first.replace(/_$/, '');
  return keywords.has(whole.toUpperCase()) ? `${whole}_1` : whole;
}

/** Identifiers for a list of names, each used once: the second `speed` becomes `speed_2`. */
export function uniqueIdentifiers(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const base = identifierOf(name);
    let candidate = base;
    for (let n = 2; taken.has(candidate.toLowerCase()); n += 1) candidate = `${base}_${n}`;
    taken.add(candidate.toLowerCase());
    return candidate;
  });
}
