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
      '-': 'DC link voltage; heat sink temperature; run hours; energy kWh; option 3; reserved word; firmware; cos phi',
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
      '-': 'Remote; internal limit; voltage enabled source; manufacturer bit; brake released; touch probe 1',
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
];
