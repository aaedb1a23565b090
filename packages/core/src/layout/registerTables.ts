/** The four tables of the Modbus data model (Application Protocol V1.1b3, 4.3). */
export const registerTables = ['coils', 'discrete', 'holding', 'input'] as const;
export type RegisterTable = (typeof registerTables)[number];

/** Whether a place of this table holds one bit; the others hold registers of 16 bits. */
export const holdsBits = (table: RegisterTable): boolean => table === 'coils' || table === 'discrete';
