import { reads, understoodFrom } from '../shared/keptXml.js';

const text = reads('textId');
const type = reads(
  'id type bitLength fixedLength count datatypeId',
  'ValueRange SingleValue RecordItem SimpleDatatype DatatypeRef',
);
const data = reads('id bitLength', 'Name Datatype SimpleDatatype DatatypeRef');
const shown = 'gradient offset unitCode displayFormat';
const language = reads('', 'Text TextRedefine');
/** Half of a file are texts; they have nothing else. */
const ofLanguage = reads('id value', '*');

/** What the reader reads of an IO device description, element by element; all else is kept as it is written. */
export const ioddUnderstood = understoodFrom('IODevice', {
  IODevice: reads('', 'DocumentInfo ProfileBody CommNetworkProfile ExternalTextCollection'),
  DocumentInfo: reads('version releaseDate'),
  ProfileBody: reads('', 'DeviceIdentity DeviceFunction'),
  DeviceIdentity: reads(
    'vendorId deviceId vendorName',
    'VendorUrl DeviceName DeviceFamily DeviceVariantCollection',
  ),
  VendorUrl: text,
  DeviceName: text,
  DeviceFamily: text,
  DeviceVariantCollection: reads('', 'DeviceVariant'),
  DeviceVariant: reads('productId', 'Name ProductName Description ProductText'),
  ProductName: text,
  ProductText: text,
  Name: text,
  Description: text,
  DeviceFunction: reads(
    '',
    'DatatypeCollection VariableCollection ProcessDataCollection EventCollection ErrorTypeCollection UserInterface',
  ),
  DatatypeCollection: reads('', 'Datatype'),
  Datatype: type,
  SimpleDatatype: type,
  DatatypeRef: reads('datatypeId'),
  ValueRange: reads('lowerValue upperValue'),
  SingleValue: reads('value', 'Name'),
  RecordItem: reads('subindex bitOffset', 'Name Description SimpleDatatype DatatypeRef'),
  VariableCollection: reads('', 'Variable StdVariableRef'),
  Variable: reads(
    'id index accessRights defaultValue',
    'Name Description Datatype SimpleDatatype DatatypeRef RecordItemInfo',
  ),
  StdVariableRef: reads('id defaultValue'),
  RecordItemInfo: reads('subindex defaultValue'),
  ProcessDataCollection: reads('', 'ProcessData'),
  ProcessData: reads('id', 'Condition ProcessDataIn ProcessDataOut'),
  Condition: reads('variableId subindex value'),
  ProcessDataIn: data,
  ProcessDataOut: data,
  EventCollection: reads('', 'Event StdEventRef'),
  Event: reads('code type mode', 'Name Description'),
  StdEventRef: reads('code type mode', 'Name Description'),
  ErrorTypeCollection: reads('', 'ErrorType StdErrorTypeRef'),
  ErrorType: reads('code additionalCode', 'Name'),
  StdErrorTypeRef: reads('code additionalCode', 'Name'),
  UserInterface: reads('', 'ProcessDataRefCollection MenuCollection'),
  ProcessDataRefCollection: reads('', 'ProcessDataRef'),
  ProcessDataRef: reads('processDataId', 'ProcessDataInfo ProcessDataRecordItemInfo'),
  ProcessDataInfo: reads(`subindex ${shown}`),
  ProcessDataRecordItemInfo: reads(`subindex ${shown}`),
  MenuCollection: reads('', 'Menu'),
  Menu: reads('id', 'Name VariableRef RecordItemRef MenuRef'),
  VariableRef: reads(`variableId ${shown}`),
  RecordItemRef: reads(`variableId subindex ${shown}`),
  MenuRef: reads('menuId'),
  CommNetworkProfile: reads('iolinkRevision', 'TransportLayers'),
  TransportLayers: reads('', 'PhysicalLayer'),
  PhysicalLayer: reads('bitrate baudrate minCycleTime sioSupported'),
  ExternalTextCollection: reads('', 'PrimaryLanguage Language'),
  PrimaryLanguage: language,
  Language: language,
  Text: ofLanguage,
  TextRedefine: ofLanguage,
});
