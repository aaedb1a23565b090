import type { DeviceKind } from '../devices/kinds.js';
import type { Role } from '../layout/role.js';

/**
 * Names of fields and bits as manuals of made-up devices write them, with what they are for; '-' for what has no role.
 * Invented for this: other languages, abbreviations and ways to join words are common practice.
 */
export interface NamedSignals {
  kind: DeviceKind;
  direction: 'command' | 'feedback';
  reads: 'bit' | 'number' | 'text';
  unit?: string;
  names: Partial<Record<Role | '-', string>>;
}

export const namedSignals: readonly NamedSignals[] = [
  {
    kind: 'variable-speed drive',
    direction: 'command',
    reads: 'bit',
    names: {
      start: 'Start; run_cmd; bRun; CMD.Start; Motor start; drive_start; Einschalten; Run command; avvio',
      stop: 'Stop; stop_cmd; bStop; Halt; Motor stop; arresto; CtrlWord.Stop',
      'quick stop': 'Quick stop; quickStop; Schnellhalt; QSTOP quick stop',
      forward: 'Run forward; fwd; RunFwd; start_fwd; Rechtslauf; bForward; Forward',
      reverse: 'Run reverse; rev; RunRev; start_rev; Linkslauf; bReverse',
      jog: 'Jog; jog_fwd; Tippen; bJog; JogForward',
      enable: 'Enable; drive_enable; Freigabe; bEnable; En; enable operation; Reglerfreigabe',
      'fault reset':
        'Fault reset; flt_rst; FaultReset; Störung quittieren; error_ack; bReset; alarm reset; ClearFault; Reset',
      'network control': 'Net ctrl request; NetworkControl; control from fieldbus; net_ctrl',
      'network reference': 'NetRef; network reference; ref from fieldbus',
      direction: 'Direction; Drehrichtung; dir; bDir',
      '-': 'Reserved; spare_1; Brake open; relay 1; fan boost; Bit 12; bypass; PID integrator hold off; sleep',
    },
  },
  {
    kind: 'variable-speed drive',
    direction: 'command',
    reads: 'number',
    unit: 'Hz',
    names: {
      'speed reference':
        'Speed reference; SpeedRef; spd_ref; Drehzahlsollwert; Frequency setpoint; FreqCmd; Sollwert; reference; set_frequency; nSpeedSetpoint; f_soll freq',
    },
  },
  {
    kind: 'variable-speed drive',
    direction: 'feedback',
    reads: 'bit',
    names: {
      ready: 'Ready; rdy; bRdy; Betriebsbereit; drive_ready; Ready to run; pronto; ReadyForOperation ready',
      running:
        'Running; motor_running; Läuft; bRunning; Motor running; is running; RunningStatus; in operation',
      'runs forward': 'Running forward; RunningFwd; fwd running; runs fwd; Rechtslauf aktiv',
      'runs reverse': 'Running reverse; RunningRev; rev running; Linkslauf aktiv',
      faulted: 'Fault; Faulted; Störung; Sammelstörung; bFault; drive fault; error; Err; tripped; Fehler',
      warning: 'Warning; Warnung; warn active; bWarning; Wrn; avviso',
      'at speed': 'At speed; at_ref; up to speed; AtReference; at setpoint; Sollwert erreicht',
      'network has control': 'Ctrl from net; CtrlFromNet; network control; NetCtrl',
      'network has reference': 'Ref from net; RefFromNet; network reference',
      enabled: 'Enabled; operation enabled; bEnabled; freigegeben',
      '-': 'Reserved; fan on; Bit 15; local keypad; brake chopper; cabinet door; frost protection; DC link charged',
    },
  },
  {
    kind: 'variable-speed drive',
    direction: 'feedback',
    reads: 'number',
    names: {
      'speed actual':
        'Speed actual; spd_act; ActualSpeed; Drehzahlistwert; output frequency; OutFreq; freq_act; actual_frequency; motor speed; Istdrehzahl',
      'motor current':
        'Motor current; output_current; I_motor current; Motorstrom; CurrentActual; motCurr; load current',
      'torque actual': 'Torque actual; motor_torque; Drehmoment; trq_act; ActTorque',
      'fault code':
        'Fault code; err_no; ErrorCode; Störungsnummer; fault_number; AlarmCode; last fault; fltCode',
      'warning code': 'Warning code; warn_no; WarningCode',
      'status word': 'Status word; StatusWord; Zustandswort; STW status word',
      'bus voltage': 'DC link voltage',
      'operating time': 'run hours',
      energy: 'energy kWh',
      '-': 'heat sink temperature; option 3; reserved word; firmware; cos phi',
    },
  },
  {
    kind: 'servo axis',
    direction: 'command',
    reads: 'bit',
    names: {
      enable: 'Enable; axis_enable; ServoOn servo on; Freigabe; bEnable; enable voltage',
      'setpoint strobe': 'New setpoint; start positioning; strobe; new_set_point; StartPos; move start',
      home: 'Start homing; home; Referenzfahrt; bHome; HomeReq; homing start',
      'fault reset': 'Fault reset; Reset; err_reset; AxisErrorReset; Fehler quittieren',
      jog: 'Jog positive jog; jog_neg jog; Tippen; bJog',
      'quick stop': 'Quick stop; quick_stop; Schnellhalt',
      stop: 'Stop; halt; axis stop',
      '-': 'Absolute; touch probe; change set immediately; brake; gear in; teach; limit switch off',
    },
  },
  {
    kind: 'servo axis',
    direction: 'command',
    reads: 'number',
    names: {
      'position setpoint':
        'Target position; TargetPos; pos_set; Zielposition; position_setpoint; posRef; SollPosition; PosCmd',
      velocity: 'Profile velocity; velocity; vel; Profilgeschwindigkeit; travel speed',
      acceleration: 'Acceleration; acc; Beschleunigung; profile_acc; accel',
      deceleration: 'Deceleration; dec; Verzögerung; decel',
      'operating mode': 'Mode of operation; op_mode; Betriebsart; OpMode; mode',
      'control word': 'Control word; ControlWord; Steuerwort; ctrl_word',
      'torque reference': 'Target torque; torque_setpoint; trq_ref',
      '-': 'Touch probe function; gear ratio; following window; output mask; backlash; load inertia',
    },
  },
  {
    kind: 'servo axis',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'target reached': 'Target reached; in position; InPos; Ziel erreicht; PosReached; in_pos; at position',
      homed: 'Homed; homing done; referenced; axis_homed; HomingDone; Referenziert',
      'setpoint acknowledge': 'Setpoint acknowledge; set_point_ack; SetpointAck; setpoint acknowledged',
      enabled: 'Operation enabled; enabled; axis_enabled; bEnabled',
      faulted: 'Fault; error; axis_error; Fehler; Störung; bErr',
      warning: 'Warning; warn; Warnung',
      ready: 'Ready; rdy; axis ready; ready to switch on ready',
      'following error': 'Following error; lag error; Schleppfehler; following_error',
      running: 'Moving; axis moving; in motion; bMoving',
      'limit active': 'internal limit',
      '-': 'Remote; voltage enabled source; manufacturer bit; brake released; touch probe 1',
    },
  },
  {
    kind: 'servo axis',
    direction: 'feedback',
    reads: 'number',
    names: {
      'position actual':
        'Position actual; actual_position; ActPos; Lageistwert; pos_act; Istposition; PosActual',
      'speed actual': 'Velocity actual; actual_velocity; vel_act; Drehzahlistwert; speed_actual',
      'torque actual': 'Torque actual; act_torque; Istmoment; trq_act',
      'fault code': 'Error code; ErrorCode; fault_code; Fehlernummer; err_no',
      'status word': 'Status word; StatusWord; Zustandswort',
      'mode shown': 'Mode actual; op_mode_act; Betriebsart; mode of operation',
      '-': 'Digital in mask; DC bus; touch probe value; following window; drive temperature; load inertia',
    },
  },
  {
    kind: 'vision sensor',
    direction: 'command',
    reads: 'bit',
    names: {
      trigger: 'Trigger; trg; bTrigger; TriggerCmd; start inspection; Auslösung; trig_req trigger; acquire',
      'result acknowledge': 'Result acknowledge; ResultAck; res ack result; Ergebnis quittieren',
      'program change': 'Change program; prog_change; JobChange; Programmwechsel; program switch',
      'fault reset': 'Error reset; err_clear; clear error; Fehler quittieren',
      '-': 'Light on; live image; buffer flush; teach; offline; save image; strobe lamp colour',
    },
  },
  {
    kind: 'vision sensor',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'trigger ready': 'Trigger ready; trg_rdy; TriggerReady; ready for trigger',
      'trigger acknowledge': 'Trigger acknowledge; TriggerAck; trg_ack',
      busy: 'Busy; bBusy; inspection busy; sys_busy; processing; occupato',
      'result valid':
        'Result valid; ResultValid; data valid; results available; Ergebnis gültig; inspection complete; result_ready',
      pass: 'Pass; OK; result_ok; overall ok; Gut; inspection_pass inspection ok',
      fail: 'Fail; NG; NOK; result_ng; Schlecht; inspection fail',
      'program changed': 'Program changed; job change done; ProgChangeAck; program change complete',
      faulted: 'Error; fault; Fehler; bErr; alarm',
      ready: 'Ready; rdy; system ready; Bereit; online ready',
      '-': 'Exposure running lamp; buffer full; missed; user bit 3; focus drift; lens dirty',
    },
  },
  {
    kind: 'vision sensor',
    direction: 'feedback',
    reads: 'number',
    names: {
      'program shown':
        'Current program number; active_job; ActualProgram; Programmnummer; job_no; program no',
      'fault code': 'Error code; err_no; ErrorCode; Fehlernummer',
      'result length': 'Result length; data_len data length; text length; code length',
      '-': 'Exposure time; contrast; blob area; inspection counter total; score threshold; focus',
    },
  },
  {
    kind: 'weigher',
    direction: 'feedback',
    reads: 'number',
    unit: 'kg',
    names: {
      gross: 'Gross; gross_weight; Brutto; GrossWt; Bruttogewicht; lordo',
      net: 'Net weight; net; Netto; NetWt; Nettogewicht; netto_value',
      'tare value': 'Tare value; tare_weight; Taragewicht; preset tare; TareWt tare weight',
    },
  },
  {
    kind: 'weigher',
    direction: 'feedback',
    reads: 'bit',
    names: {
      stable: 'Stable; stability; weight_stable; Stillstand stable; bStable; stabile',
      sign: 'Sign; negative; minus; sign_bit; net negative sign',
      overrange: 'Overrange; overflow; over range overrange; Überlast overrange',
      faulted: 'Error; fault; Fehler; ADC error',
      '-': 'Center of zero window; unit is pounds; printing; key pressed; range 2; filter on',
    },
  },
  {
    kind: 'weigher',
    direction: 'command',
    reads: 'bit',
    names: {
      tare: 'Tare; tare_cmd; Tarieren; bTare; set tare; TareReq',
      zero: 'Zero; zero_cmd; Nullstellen; bZero; set zero',
      '-': 'Gross mode; key lock; backlight; channel two; test weight; filter select lamp',
    },
  },
  {
    kind: 'soft starter',
    direction: 'command',
    reads: 'bit',
    names: {
      start: 'Start; Start command; motor start; run command; Einschalten',
      stop: 'Stop; Stop command; motor stop; Halt',
      'fault reset': 'Fault reset; trip reset; Störung quittieren; error acknowledge',
      enable: 'Enable; Freigabe',
      '-': 'Kick voltage; bypass contactor test; parameter set 2; cabinet fan; reserved',
    },
  },
  {
    kind: 'soft starter',
    direction: 'feedback',
    reads: 'bit',
    names: {
      running: 'Running; motor running; Läuft; is running',
      ready: 'Ready; ready to run; Betriebsbereit',
      faulted: 'Fault; tripped; Sammelstörung; drive fault; error',
      warning: 'Warning; Warnung',
      'at speed': 'At speed; up to speed',
      ramping: 'Ramping',
      '-': 'bypass closed; phase sequence; cabinet door; voltage dip',
    },
  },
  {
    kind: 'soft starter',
    direction: 'feedback',
    reads: 'number',
    names: {
      'motor current': 'Motor current; output current; Motorstrom',
      'thermal load': 'Thermal load; motor thermal capacity',
      'fault code': 'Fault code; last fault; Fehlernummer',
      energy: 'energy',
      '-': 'Starts per hour; supply frequency; cos phi',
    },
  },
  {
    kind: 'robot',
    direction: 'command',
    reads: 'bit',
    names: {
      start: 'Start; program start; Start program; start signal',
      'cycle start': 'Cycle start; start cycle; Zyklus Start',
      hold: 'Hold; feedhold; program hold',
      stop: 'Stop; Halt; motion stop',
      'fault reset': 'Fault reset; error reset; alarm reset; Fehler quittieren',
      home: 'Home; go home; home request',
      enable: 'Enable; servo on; motion enable; Freigabe',
      permissive: 'Permissive; interlock; Verriegelung',
      heartbeat: 'Heartbeat; life bit; Lebenszeichen; watchdog',
      '-': 'Teach lamp; tool changer air; spare 4; brake test; collision sensitivity high',
    },
  },
  {
    kind: 'robot',
    direction: 'command',
    reads: 'number',
    names: {
      'program number': 'Program number; job number; Programmnummer; program select number',
      '-': 'Tool data; override in per cent; base frame; payload index',
    },
  },
  {
    kind: 'robot',
    direction: 'feedback',
    reads: 'bit',
    names: {
      ready: 'Ready; robot ready; Bereit; system ready',
      running: 'Running; is running; in motion; moving',
      'program running': 'Program running; job running; program active',
      faulted: 'Fault; error; alarm active; Störung',
      'at home': 'At home; home position reached; in home position',
      done: 'Done; job done; program completed; cycle done; finished',
      'part present': 'Part present; part in gripper; Werkstück vorhanden; part detected',
      enabled: 'Enabled; servo is on; drives enabled',
      '-': 'Teach mode key; battery low; tool 2 coupled; brake released; air pressure',
    },
  },
  {
    kind: 'robot',
    direction: 'feedback',
    reads: 'number',
    names: {
      'program shown': 'Active program number; actual job number; current program',
      'fault code': 'Fault code; error number; alarm code; Störungsnummer',
      'cycle time': 'cycle time',
      '-': 'Tool temperature; base frame index; override',
    },
  },
  {
    kind: 'safety controller',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'emergency stop': 'Emergency stop; E-Stop active; Not-Halt; emergency stop pressed',
      muted: 'Muted; muting active; muting',
      'safety in order': 'Safety OK; safety in order; safety circuit closed',
      faulted: 'Fault; error; Sammelstörung; device fault',
      input: 'DI 1; Input 3; digital input 8; Eingang 5',
      '-': 'Lamp test; window dirty; cascade; maintenance due; key removed',
    },
  },
  {
    kind: 'safety controller',
    direction: 'feedback',
    reads: 'number',
    names: {
      'object size': 'Object size; object height; object length',
      'object position': 'Object position; lowest beam; first beam; object lowest beam',
      'fault code': 'Fault code; error number; diagnostic code fault code',
      'life counter': 'Life counter; alive counter; heartbeat counter',
      '-': 'Response time; firmware checksum; hours of use; scan width; cascade length',
    },
  },
  {
    kind: 'safety controller',
    direction: 'command',
    reads: 'bit',
    names: {
      'safety reset': 'Safety reset; reset safety; safety acknowledge',
      '-': 'Lamp test; standby; display on; log clear flag',
    },
  },
  {
    kind: 'valve terminal',
    direction: 'command',
    reads: 'bit',
    names: {
      output: 'Output 1; Out 7; DO 12; valve 3; coil 4; solenoid 2; Ausgang 9; Ventil 5; Out_15',
      'load power': 'Load power; load supply',
      '-': 'Blow off time; lamp green; display dim; service mode; counter clear flag',
    },
  },
  {
    kind: 'valve terminal',
    direction: 'feedback',
    reads: 'bit',
    names: {
      input: 'Input 1; DI 4; In 8; Eingang 2; Input_11; digital input 6',
      'load power': 'Load power; load supply; load voltage',
      overload: 'Overload; Überlast; coil overload',
      faulted: 'Fault; error; Sammelstörung; module fault',
      '-': 'Air quality; manual override used; leak; humidity high; first cycle',
    },
  },
  {
    kind: 'marker',
    direction: 'command',
    reads: 'bit',
    names: {
      print: 'Print; print command; start print; Drucken; print request',
      'fault reset': 'Fault reset; clear error; error reset; Fehler quittieren',
      '-': 'Jet clean; lamp test; pause belt lamp; open drawer; test pattern',
    },
  },
  {
    kind: 'marker',
    direction: 'command',
    reads: 'number',
    names: {
      'format number': 'Format number; layout number; template number; format; Vorlage Nummer',
      'sequence number': 'Sequence number; sequence; seq no; Sequenznummer',
      copies: 'Copies',
      '-': 'contrast; print delay; darkness; ribbon saver',
    },
  },
  {
    kind: 'marker',
    direction: 'command',
    reads: 'text',
    names: {
      'variable text': 'Variable text; variable 1 text; text; batch text; text 1; print text',
    },
  },
  {
    kind: 'marker',
    direction: 'feedback',
    reads: 'bit',
    names: {
      printed: 'Printed; print done; label printed; gedruckt; print completed',
      busy: 'Busy; printing busy; beschäftigt; working',
      ready: 'Ready; printer ready; Bereit; pronto',
      faulted: 'Fault; error; Störung; printer error; alarm',
      warning: 'Warning; Warnung; warn',
      'door open': 'cover open',
      '-': 'Ribbon short; head worn; ink low; paper end',
    },
  },
  {
    kind: 'marker',
    direction: 'feedback',
    reads: 'number',
    names: {
      'fault code': 'Fault code; error number; error code; Fehlernummer',
      'sequence number': 'Sequence number; printed sequence; seq no',
      '-': 'Labels on roll; head temperature; kilometres of ribbon; jobs today',
    },
  },
  {
    kind: 'process I/O',
    direction: 'command',
    reads: 'bit',
    names: {
      output: 'Output 1; DO 2; relay output 3; digital output 4; Ausgang 5; Out 6',
      '-': 'Calibration open; filter fast; burnout test; display hold flag',
    },
  },
  {
    kind: 'process I/O',
    direction: 'command',
    reads: 'number',
    names: {
      'analogue output': 'Analog output 1; AO 2; analogue output 3; Analogausgang 4; analog out 2',
      'filter time': 'Filter time',
      '-': 'span; dead band; sampling',
    },
  },
  {
    kind: 'process I/O',
    direction: 'feedback',
    reads: 'bit',
    names: {
      input: 'Input 1; DI 2; digital input 3; Eingang 4; In 5',
      faulted: 'Fault; error; Störung; module error; Sammelstörung',
      overrange: 'Overrange; over range overrange; measurement overrange',
      '-': 'Calibration due; cold junction; simulation on; burnout direction up',
    },
  },
  {
    kind: 'process I/O',
    direction: 'feedback',
    reads: 'number',
    names: {
      'analogue input': 'Analog input 1; AI 2; analogue input 3; Analogeingang 4; analog in 5',
      'measured value': 'Measured value; temperature; pressure; level; process value',
      '-': 'Module serial; filter order; sampling jitter; cold junction offset',
    },
  },
  {
    kind: 'IO-Link master',
    direction: 'command',
    reads: 'bit',
    names: {
      'load power': 'Load power 1; load supply 2; port 3 load power; load voltage 4',
      output: 'Output 1; DO 2; digital output 3; Out 4; Ausgang 2',
      '-': 'Locate lamp; backup enable flag; log freeze; webserver lock',
    },
  },
  {
    kind: 'IO-Link master',
    direction: 'command',
    reads: 'number',
    names: {
      'port mode': 'Port mode 1; port 2 mode; mode port 3; Port 4 Modus',
      '-': 'Cycle stretch; storage behaviour; device checksum wish; vendor wish',
    },
  },
  {
    kind: 'IO-Link master',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'port valid': 'Port valid 1; port 2 valid; port 3 data valid; PD valid 4',
      'load power': 'Load power 1; port 2 load power; load voltage 3; load supply 4',
      input: 'DI 1; Input 2; digital input 3; Eingang 4',
      faulted: 'Fault; error; Sammelstörung; master error',
      '-': 'Device mismatch; event pending flag; storage full; locate lamp',
    },
  },
  {
    kind: 'remote I/O',
    direction: 'command',
    reads: 'bit',
    names: {
      output:
        'Output 1; DO 0; Out 15; digital output 4; Ausgang 7; Output_12; DO_3; relay output 2; uscita 5; DOut 6',
      'load power': 'Load power; load supply',
      heartbeat: 'Heartbeat; life bit; Lebenszeichen',
      '-': 'Locate lamp; web lock; reserved; retain memory; simulation flag',
    },
  },
  {
    kind: 'remote I/O',
    direction: 'command',
    reads: 'number',
    names: {
      'analogue output': 'AO 1; analog output 0; analogue out 3; Analogausgang 2',
      '-': 'Filter constant; substitute policy; refresh divider; reserved word',
    },
  },
  {
    kind: 'remote I/O',
    direction: 'feedback',
    reads: 'bit',
    names: {
      input: 'Input 1; DI 0; In 15; digital input 4; Eingang 7; Input_12; DI_3; ingresso 5; Inp 6',
      'load power': 'Load power; load supply; load voltage',
      overload: 'Overload; output overload; Überlast',
      faulted: 'Fault; error; Sammelstörung; module error',
      warning: 'Warning; Warnung',
      '-': 'Locate lamp; web lock; firmware new; slot 3 empty; reserved',
    },
  },
  {
    kind: 'remote I/O',
    direction: 'feedback',
    reads: 'number',
    names: {
      'analogue input': 'AI 1; analog input 0; analogue in 3; Analogeingang 2; ana in 4',
      'fault code': 'Fault code; error number; Fehlernummer',
      '-': 'Module count; temperature inside; bus utilization; reserved word',
    },
  },
  {
    kind: 'motor starter',
    direction: 'command',
    reads: 'bit',
    names: {
      start: 'Start; motor start; Einschalten; start command; run command',
      stop: 'Stop; motor stop; Halt; stop command',
      forward: 'Run forward; forward; start fwd; Rechtslauf; fwd',
      reverse: 'Run reverse; reverse; start rev; Linkslauf; rev',
      'fault reset':
        'Fault reset; trip reset; overload reset fault reset; error acknowledge; Störung quittieren',
      '-': 'Brake; test trip lamp; cooling fan high; parameter set 2; reserved',
    },
  },
  {
    kind: 'motor starter',
    direction: 'feedback',
    reads: 'bit',
    names: {
      running: 'Running; motor running; is running; Läuft; in operation',
      'runs forward': 'Running forward; runs forward; forward running; Rechtslauf aktiv',
      'runs reverse': 'Running reverse; runs reverse; reverse running; Linkslauf aktiv',
      overload: 'Overload; motor overload; Überlast; overload trip overload',
      faulted: 'Fault; tripped; error; Sammelstörung',
      warning: 'Warning; Warnung; overload warning warning',
      ready: 'Ready; Betriebsbereit; ready to start ready',
      '-': 'Manual local; isolator; phase unbalance; short circuit breaker aux; test position',
    },
  },
  {
    kind: 'motor starter',
    direction: 'feedback',
    reads: 'number',
    names: {
      'motor current': 'Motor current; Motorstrom; load current; output current',
      'thermal load': 'Thermal load; thermal model; motor thermal capacity',
      'fault code': 'Fault code; trip code fault code; last fault; error number',
      '-': 'Number of starts; operating hours; rated setting; phase unbalance',
    },
  },
  {
    kind: 'identification reader',
    direction: 'command',
    reads: 'bit',
    names: {
      trigger: 'Trigger; read trigger; trigger read; start trigger; Auslösung',
      enable: 'Enable; antenna enable; Freigabe; read enable',
      'result acknowledge': 'Result acknowledge; data acknowledge; result ack; Ergebnis quittieren',
      'fault reset': 'Fault reset; clear error; error reset; Fehler quittieren',
      '-': 'Lamp green; beep; power high flag; write protect',
    },
  },
  {
    kind: 'identification reader',
    direction: 'command',
    reads: 'number',
    names: {
      'command code': 'Command code; command; function code; request code; Befehl',
      'sequence number': 'Sequence number; sequence; seq no',
      '-': 'Antenna gain; block address; retries; user memory bank',
    },
  },
  {
    kind: 'identification reader',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'result valid': 'Result valid; data valid; read complete; data ready; Ergebnis gültig; read completed',
      busy: 'Busy; reading busy; beschäftigt; processing',
      fail: 'No read; read fail; fail',
      'trigger ready': 'Trigger ready; ready for trigger',
      'part present': 'Tag present; part present; tag detected part present',
      faulted: 'Fault; error; Störung; head error',
      ready: 'Ready; reader ready; Bereit',
      '-': 'Antenna detuned; user lamp; noise; buffer level half',
    },
  },
  {
    kind: 'identification reader',
    direction: 'feedback',
    reads: 'number',
    names: {
      'result length': 'Result length; data length; code length; length',
      'command answer': 'Command answer; answer; response code; command response; Antwort',
      'fault code': 'Fault code; error code; error number; Fehlernummer',
      '-': 'Signal level dB; antenna current share; reads today; hardware id',
    },
  },
  {
    kind: 'identification reader',
    direction: 'feedback',
    reads: 'text',
    names: { 'result text': 'Read data; code text; result text; result string; code data; text' },
  },
  {
    kind: 'torque tool',
    direction: 'command',
    reads: 'bit',
    names: {
      start: 'Start; start tightening; Start command; tool start',
      stop: 'Stop; tool stop; Halt',
      enable: 'Enable; tool enable; Freigabe',
      direction: 'Direction; Drehrichtung; dir',
      'fault reset': 'Fault reset; error reset; Fehler quittieren; alarm acknowledge',
      'result acknowledge': 'Result acknowledge; result ack; Ergebnis quittieren',
      '-': 'Lamp blue; buzzer; identify; socket tray light; batch clear flag',
    },
  },
  {
    kind: 'torque tool',
    direction: 'command',
    reads: 'number',
    names: {
      'program number': 'Program number; job number; Programmnummer; program select number; task no',
      '-': 'Batch size; socket; rundown limit; operator badge',
    },
  },
  {
    kind: 'torque tool',
    direction: 'feedback',
    reads: 'bit',
    names: {
      done: 'Done; tightening done; finished; cycle done; job done',
      pass: 'OK; pass; result OK; tightening ok; Gut; total ok',
      fail: 'NOK; fail; result NOK; NG; Schlecht',
      ready: 'Ready; tool ready; Bereit',
      running: 'Running; tool running; is running',
      'result valid': 'Result valid; data valid; Ergebnis gültig; results available',
      faulted: 'Fault; error; tool fault; Störung',
      '-': 'Trigger lever; light ring; battery; socket missing; batch count full',
    },
  },
  {
    kind: 'torque tool',
    direction: 'feedback',
    reads: 'number',
    names: {
      'torque actual': 'Torque actual; final torque; Drehmoment; act torque; peak torque',
      'angle actual': 'Angle actual; final angle; tightening angle; angle',
      'program shown': 'Active program; program number actual; actual job number',
      'fault code': 'Fault code; error code; Fehlernummer; error number',
      '-': 'Batch size; rundown time; socket; motor temperature; tool serial',
    },
  },
  {
    kind: 'measuring sensor',
    direction: 'command',
    reads: 'bit',
    names: {
      zero: 'Zero; set zero; zero command; Nullstellen; zero request',
      trigger: 'Trigger; measurement trigger; Auslösung',
      '-': 'Laser off; filter slow; teach window; display flip; keypad locked',
    },
  },
  {
    kind: 'measuring sensor',
    direction: 'feedback',
    reads: 'number',
    names: {
      'measured value':
        'Measured value; measurement value; distance; level; pressure; temperature; process value; Messwert; value; measurement',
      'fault code': 'Fault code; error code; error number; Fehlernummer',
      'life counter': 'Life counter; alive counter; heartbeat counter',
      '-': 'Signal intensity; laser hours; housing serial; averaging depth; gain step',
    },
  },
  {
    kind: 'measuring sensor',
    direction: 'feedback',
    reads: 'bit',
    names: {
      overrange: 'Overrange; overflow; range exceeded; measurement overrange',
      'result valid': 'Data valid; measurement valid; result valid; data ready',
      ready: 'Ready; sensor ready; Bereit; rdy',
      faulted: 'Fault; error; sensor fault; Störung',
      warning: 'Warning; Warnung',
      stable: 'Stable; stability; Ruhe',
      input: 'Input 1; DI 2; Eingang 1',
      '-': 'Dirty lens; laser on; teach running; window A; key lock',
    },
  },
];

/** Abbreviations as manuals write them; common practice, no source. */
const short: readonly [RegExp, string][] = [
  [/command/i, 'Cmd'],
  [/actual/i, 'Act'],
  [/number/i, 'No'],
  [/position/i, 'Pos'],
  [/acknowledge/i, 'Ack'],
  [/reference/i, 'Ref'],
  [/program/i, 'Prog'],
  [/digital input/i, 'DI'],
  [/digital output/i, 'DO'],
  [/current/i, 'Curr'],
  [/temperature/i, 'Temp'],
  [/error/i, 'Err'],
  [/fault/i, 'Flt'],
  [/reset/i, 'Rst'],
  [/ready/i, 'Rdy'],
  [/request/i, 'Req'],
  [/forward/i, 'Fwd'],
  [/reverse/i, 'Rev'],
  [/speed/i, 'Spd'],
  [/torque/i, 'Trq'],
  [/velocity/i, 'Vel'],
  [/warning/i, 'Wrn'],
  [/sequence/i, 'Seq'],
  [/output/i, 'Out'],
  [/input/i, 'In'],
];
const prefixes = { bit: 'b', number: 'n', text: 's' };

/** One name in the ways in which manuals and programs write names: with blanks, joined, shortened, with a prefix. */
export function variantsOf(name: string, reads: NamedSignals['reads']): string[] {
  const words = name.split(/[\s_.-]+/);
  const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);
  // What is written as one word already has a way of its own.
  if (words.length === 1 && /[a-z][A-Z]|[A-Z]{2}/.test(name)) return [name, `Dev1.${name}`, `${name}_A1`];
  const shortened = short.reduce(
    (text, [long, abbreviated]) => text.replace(long, abbreviated),
    words.join(' '),
  );
  const plain = [
    name,
    words.join('_').toLowerCase(),
    words.map(capital).join(''),
    prefixes[reads] + words.map(capital).join(''),
    `Unit1.${words.map(capital).join('')}`,
    shortened,
    shortened.split(' ').map(capital).join(''),
    shortened.split(' ').join('_').toUpperCase(),
  ];
  return [...new Set(plain)];
}
