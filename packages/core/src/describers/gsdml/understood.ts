import { reads, understoodFrom } from '../shared/keptXml.js';

const moduleParts = 'ModuleInfo VirtualSubmoduleList SystemDefinedSubmoduleList UseableSubmodules';
const submodule = reads(
  'ID SubmoduleIdentNumber FixedInSubslots SubslotNumber PROFIsafeSupported TextId',
  'ModuleInfo IOData RecordDataList ChannelDiagList ApplicationRelations',
);
const diagnosis = reads('ErrorType', 'Name Help');
const text = reads('TextId');
const value = reads('Value');
const data = reads('Consistency', 'DataItem');
const language = reads('', 'Text');

/** What the reader reads of a PROFINET device description, element by element; all else is kept as it is written. */
export const gsdmlUnderstood = understoodFrom('ISO15745Profile', {
  ISO15745Profile: reads('', 'ProfileBody'),
  ProfileBody: reads('', 'DeviceIdentity DeviceFunction ApplicationProcess'),
  DeviceIdentity: reads('VendorID DeviceID', 'InfoText VendorName'),
  DeviceFunction: reads('', 'Family'),
  Family: reads('MainFamily ProductFamily'),
  ApplicationProcess: reads('', 'DeviceAccessPointList ModuleList SubmoduleList ValueList ExternalTextList'),
  DeviceAccessPointList: reads('', 'DeviceAccessPointItem'),
  DeviceAccessPointItem: reads(
    'ID PhysicalSlots ModuleIdentNumber MinDeviceInterval DNS_CompatibleName FixedInSlots',
    `${moduleParts} IOConfigData UseableModules ApplicationRelations`,
  ),
  ModuleList: reads('', 'ModuleItem'),
  ModuleItem: reads('ID ModuleIdentNumber', moduleParts),
  ModuleInfo: reads('', 'Name InfoText OrderNumber HardwareRelease SoftwareRelease'),
  IOConfigData: reads('MaxInputLength MaxOutputLength'),
  ApplicationRelations: reads('', 'TimingProperties'),
  TimingProperties: reads('SendClock ReductionRatio'),
  UseableModules: reads('', 'ModuleItemRef'),
  ModuleItemRef: reads('ModuleItemTarget AllowedInSlots FixedInSlots UsedInSlots'),
  UseableSubmodules: reads('', 'SubmoduleItemRef'),
  SubmoduleItemRef: reads('SubmoduleItemTarget AllowedInSubslots FixedInSubslots UsedInSubslots'),
  VirtualSubmoduleList: reads('', 'VirtualSubmoduleItem'),
  VirtualSubmoduleItem: submodule,
  SystemDefinedSubmoduleList: reads('', 'InterfaceSubmoduleItem PortSubmoduleItem'),
  InterfaceSubmoduleItem: submodule,
  PortSubmoduleItem: submodule,
  SubmoduleList: reads('', 'SubmoduleItem'),
  SubmoduleItem: submodule,
  IOData: reads('', 'Input Output'),
  Input: data,
  Output: data,
  DataItem: reads('DataType Length UseAsBits TextId', 'BitDataItem'),
  BitDataItem: reads('BitOffset TextId'),
  RecordDataList: reads('', 'ParameterRecordDataItem F_ParameterRecordDataItem'),
  ParameterRecordDataItem: reads('Index Length TransferSequence', 'Name Const Ref'),
  Const: reads('ByteOffset Data'),
  Ref: reads(
    'ValueItemTarget DataType ByteOffset BitOffset BitLength DefaultValue AllowedValues Changeable Visible TextId Length',
    'Help',
  ),
  F_ParameterRecordDataItem: reads('', '*'),
  ChannelDiagList: reads('', 'ChannelDiagItem SystemDefinedChannelDiagItem ProfileChannelDiagItem'),
  ChannelDiagItem: diagnosis,
  SystemDefinedChannelDiagItem: diagnosis,
  ProfileChannelDiagItem: diagnosis,
  ValueList: reads('', 'ValueItem'),
  ValueItem: reads('ID', 'Assignments'),
  Assignments: reads('', 'Assign'),
  Assign: reads('Content TextId'),
  ExternalTextList: reads('', 'PrimaryLanguage Language'),
  PrimaryLanguage: language,
  Language: language,
  // Half of a file are texts; they have nothing else.
  Text: reads('TextId Value', '*'),
  Name: text,
  Help: text,
  InfoText: text,
  VendorName: value,
  OrderNumber: value,
  HardwareRelease: value,
  SoftwareRelease: value,
});
