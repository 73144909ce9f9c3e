import { LONGEST_SHOW_MIN } from '../../../core/limits';
import { FigureSheet } from '../../parts/FigureSheet';
import { figureIn } from '../../parts/format';

interface Props {
  open: boolean;
  name: string;
  onClose: () => void;
  onKeep: (minutes: number) => void;
}

/** The instrument was played outside a show: how long, up to now. Playing beds new strings and warms them. */
export const PlayedSheet = ({ open, name, onClose, onKeep }: Props) => (
  <FigureSheet
    open={open}
    title={`${name} was played`}
    label="Minutes, up to now"
    help="Playing settles a new string and warms it. The forecast allows for it. Read the strings when they have cooled down."
    start="30"
    onClose={onClose}
    onKeep={(text) => {
      const minutes = figureIn(text);
      if (!(minutes >= 1 && minutes <= LONGEST_SHOW_MIN)) return 'Give the minutes, 1 or more.';
      onKeep(minutes);
      return undefined;
    }}
  />
);
