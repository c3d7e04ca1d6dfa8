import type { DeviceError } from './program-message.ts';

const LONGEST_QUEUE = 20;

/** Bits of the standard event status register (IEEE 488.2, 11.5.1). */
const OPERATION_COMPLETE = 1;
const POWER_ON = 128;
/** By the hundred of the error: command, execution, device, query. */
const CLASS_BITS = [0, 32, 16, 8, 4] as const;
/** Bits of the status byte (11.2): errors wait (SCPI 1999, 20.1.1), a message waits, an event was told, service is asked for. */
const ERRORS_WAIT = 4;
const MESSAGE_WAITS = 16;
const EVENT = 32;
const SERVICE = 64;

/** What a device reports of itself: events, the status byte, the queue of errors. */
export class DeviceStatus {
  private errors: string[] = [];
  private events = POWER_ON;
  eventEnable = 0;
  private serviceEnable_ = 0;

  /** First in, first out; the last place is kept for the overflow (SCPI 1999, 21.8.1). */
  add(error: DeviceError): void {
    this.events |= CLASS_BITS[Math.floor(-Number(error.code) / 100)] ?? 0;
    if (this.errors.length < LONGEST_QUEUE - 1) this.errors.push(error.message);
    else if (this.errors.length < LONGEST_QUEUE) this.errors.push('-350,"Queue overflow"');
  }
  nextError(): string {
    return this.errors.shift() ?? '0,"No error"';
  }
  errorCount(): number {
    return this.errors.length;
  }
  complete(): void {
    this.events |= OPERATION_COMPLETE;
  }
  /** Reading the events clears them. */
  takeEvents(): number {
    const { events } = this;
    this.events = 0;
    return events;
  }
  get serviceEnable(): number {
    return this.serviceEnable_;
  }
  /** The bit that asks for service cannot ask for itself. */
  set serviceEnable(mask: number) {
    this.serviceEnable_ = mask & ~SERVICE;
  }
  byte(messageWaits: boolean): number {
    const bits =
      (this.errors.length > 0 ? ERRORS_WAIT : 0) |
      (messageWaits ? MESSAGE_WAITS : 0) |
      ((this.events & this.eventEnable) !== 0 ? EVENT : 0);
    return bits | ((bits & this.serviceEnable_) !== 0 ? SERVICE : 0);
  }
  /** *CLS: events and errors, and no mask. */
  clear(): void {
    this.errors = [];
    this.events = 0;
  }
}
