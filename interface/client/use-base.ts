/** Where others reach this server: an address in the network, when it was started for that; this page's own otherwise. */
import { useEffect, useState } from 'react';
import { useShowClient } from './show-client';

export function useBase(): { base: string; onlyHere: boolean } {
  const { passes } = useShowClient();
  const [addresses, setAddresses] = useState<readonly string[]>([]);
  useEffect(() => void passes?.addresses().then(setAddresses), [passes]);
  return { base: addresses[0] ?? window.location.origin, onlyHere: addresses.length === 0 };
}
