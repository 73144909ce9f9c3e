import { useState } from 'react';
import { type InstrumentLife, headField } from '../../../core/log';
import { Button } from '../../parts/Button';
import { FigureField } from '../../parts/FigureField';
import { figureIn } from '../../parts/format';
import { useWriting } from '../../world/writing';

/** Nut to tuner, or to the guide where there is one: friction times wrap is reckoned by it. */
export function HeadField({
  life,
  stringId,
  onRefused,
}: {
  life: InstrumentLife;
  stringId: string;
  onRefused: (sentence: string) => void;
}) {
  const { strings, type, instrumentId, name, family, build } = life.record;
  const known = strings.find((s) => s.stringId === stringId)?.headMm;
  const [text, setText] = useState(known === undefined ? '' : String(known));
  const write = useWriting(onRefused);
  const keep = () => {
    const headMm = figureIn(text);
    if (!headField().isValidSync(headMm)) {
      onRefused('Nut to tuner is 5 to 1000 mm.');
      return;
    }
    void write(
      [
        {
          type,
          instrumentId,
          name,
          family,
          ...(build ? { build } : {}),
          strings: strings.map((s) => (s.stringId === stringId ? { ...s, headMm } : s)),
        },
      ],
      () => onRefused('Kept.'),
    );
  };
  return (
    <form
      className="flex flex-wrap items-center gap-2 pb-2 text-sm"
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      <FigureField words="Nut to tuner or guide" unit="mm" value={text} onChange={setText} placeholder="usual" />
      <Button type="submit">Keep</Button>
    </form>
  );
}
