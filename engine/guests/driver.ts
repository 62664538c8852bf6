/** The shape of a guest's devices: real ones of a browser, and those of simulated guests alike. */

export interface GuestChoice {
  /** Identities as the browser gives them; empty for its own choice. */
  camera: string;
  microphone: string;
}

export interface GuestDevice {
  kind: 'videoinput' | 'audioinput' | 'audiooutput';
  id: string;
  name: string;
}

export interface GuestDevices {
  /** Opens camera and microphone; one of them alone where there is no other. @throws Error in words for the guest */
  open(choice: GuestChoice): Promise<MediaStream>;
  list(): Promise<GuestDevice[]>;
  /** A screen to be shared; null when they have chosen none. @throws Error in words for the guest */
  share(): Promise<MediaStream | null>;
}
