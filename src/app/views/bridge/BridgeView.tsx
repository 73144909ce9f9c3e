import { useState } from 'react';
import type { InstrumentLife } from '../../../core/log';
import { Returns } from './Returns';
import { Tune } from './Tune';

/** A floating bridge: tuned by stops, and tested whether it comes back when its bar was moved. */
export function BridgeView({ life }: { life: InstrumentLife }) {
  const [testing, setTesting] = useState(false);
  return testing ? (
    <Returns life={life} onEnd={() => setTesting(false)} />
  ) : (
    <Tune life={life} onReturnTest={() => setTesting(true)} />
  );
}
