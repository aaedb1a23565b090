/** A column of a LongTable. */
export interface LongColumn<Row> {
  id: string;
  title: string;
  class?: string;
  /** What it is sorted by; a column without it is not. */
  sort?: (row: Row) => string | number;
}
