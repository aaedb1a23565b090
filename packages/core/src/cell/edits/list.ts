import { cellRestore } from './cellRestore.js';
import { cellSet } from './cellSet.js';
import { controllerSet } from './controllerSet.js';
import { descriptionSet } from './descriptionSet.js';
import { deviceAdd } from './deviceAdd.js';
import { deviceCopy } from './deviceCopy.js';
import { deviceMove } from './deviceMove.js';
import { deviceRemove } from './deviceRemove.js';
import { deviceReplace } from './deviceReplace.js';
import { deviceSet } from './deviceSet.js';
import { exchangeAdd } from './exchangeAdd.js';
import { exchangeRemove } from './exchangeRemove.js';
import { exchangeSet } from './exchangeSet.js';
import { fieldAdd } from './fieldAdd.js';
import { fieldRemove } from './fieldRemove.js';
import { fieldSet } from './fieldSet.js';
import { imageArrange } from './imageArrange.js';
import { imagePoint } from './imagePoint.js';
import { imageSet } from './imageSet.js';
import { linkProtocol } from './linkProtocol.js';
import { linkSet } from './linkSet.js';
import { machineAdd } from './machineAdd.js';
import { machineRemove } from './machineRemove.js';
import { machineSet } from './machineSet.js';
import { networkMove } from './networkMove.js';
import { networkSet } from './networkSet.js';
import { parametersArrange } from './parametersArrange.js';
import { parametersChoose } from './parametersChoose.js';
import { portSet } from './portSet.js';

/** Every way to change a cell. */
export const editKinds = [
  cellSet,
  cellRestore,
  controllerSet,
  networkSet,
  networkMove,
  machineAdd,
  machineSet,
  machineRemove,
  exchangeAdd,
  exchangeSet,
  exchangeRemove,
  deviceAdd,
  deviceCopy,
  deviceSet,
  descriptionSet,
  deviceReplace,
  deviceMove,
  deviceRemove,
  parametersArrange,
  parametersChoose,
  portSet,
  linkSet,
  linkProtocol,
  imageSet,
  imagePoint,
  imageArrange,
  fieldAdd,
  fieldSet,
  fieldRemove,
] as const;
