import type { InputFacts } from './facts/input.js';
import type { EditsFacts } from './facts/edits.js';
import type { LayoutsFacts } from './facts/layouts.js';
import type { LineUpFacts } from './facts/lineUp.js';
import type { LinksFacts } from './facts/links.js';
import type { ModbusFacts } from './facts/modbus.js';
import type { DescribersFacts } from './facts/describers.js';
import type { WireFacts } from './facts/wire.js';
import type { BenchFacts } from './facts/bench.js';
import type { ExchangesFacts } from './facts/exchanges.js';
import type { MotionFacts } from './facts/motion.js';
import type { SafetyFacts } from './facts/safety.js';

/**
 * Every problem and every finding has a code; this table says which facts belong to it, room by room (facts/). The
 * words stand in one dictionary per language (en.ts), which does not build when a code is left out.
 */
export interface Facts
  extends
    InputFacts,
    EditsFacts,
    LayoutsFacts,
    LineUpFacts,
    LinksFacts,
    ModbusFacts,
    DescribersFacts,
    WireFacts,
    BenchFacts,
    ExchangesFacts,
    MotionFacts,
    SafetyFacts {}

export type Code = keyof Facts;
