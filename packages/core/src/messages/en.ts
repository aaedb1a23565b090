import { inputTexts } from './en/input.js';
import { editsTexts } from './en/edits.js';
import { layoutsTexts } from './en/layouts.js';
import { lineUpTexts } from './en/lineUp.js';
import { linksTexts } from './en/links.js';
import { modbusTexts } from './en/modbus.js';
import { describersTexts } from './en/describers.js';
import { wireTexts } from './en/wire.js';
import { benchTexts } from './en/bench.js';
import { exchangesTexts } from './en/exchanges.js';
import { motionTexts } from './en/motion.js';
import { safetyTexts } from './en/safety.js';
import type { Facts } from './facts.js';
import type { Texts } from './wording.js';

/** All sentences in English, by code; the rooms stand in en/. */
export const en: Texts<Facts> = {
  ...inputTexts,
  ...editsTexts,
  ...layoutsTexts,
  ...lineUpTexts,
  ...linksTexts,
  ...modbusTexts,
  ...describersTexts,
  ...wireTexts,
  ...benchTexts,
  ...exchangesTexts,
  ...motionTexts,
  ...safetyTexts,
};
