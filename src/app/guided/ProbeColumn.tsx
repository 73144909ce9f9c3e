import type { ReactNode } from 'react';
import { Caution } from '../parts/Caution';
import { WorkColumn } from './WorkColumn';
import { TOLERANCE_CENTS } from '../../core/check';
import { loadOf } from '../../core/guided';
import { stringTargetHz } from '../../core/music';
import { useWorld } from '../world/world';
import { GuardNote } from './GuardNote';
import { PlaceDrawing } from './PlaceDrawing';
import type { useProbe } from './useProbe';

interface Props {
  session: ReturnType<typeof useProbe>;
  message: string;
  note: string;
  tree: boolean;
  /** What stands there between two tests. */
  heading: string;
  instruction: string;
  children?: ReactNode;
}

/** The column of a test by hand: what to do, where the finger goes, the caution, what is heard. */
export function ProbeColumn({ session, message, note, tree, heading, instruction, children }: Props) {
  const { a4Hz } = useWorld();
  const { guide, part, sound, sounding, pulled } = session;
  return (
    <WorkColumn
      heading={session.heading ?? heading}
      note={session.sounds ?? note}
      trace={sounding || pulled ? sound.trace : undefined}
      instruction={session.instruction ?? instruction}
      toleranceCents={TOLERANCE_CENTS}
      message={message}
      hint={
        guide && <PlaceDrawing place={part?.kind === 'do' ? guide.place : 'none'} tree={tree} title={guide.title} />
      }
    >
      {pulled && (
        <GuardNote
          trace={sound.trace}
          load={loadOf(pulled.plan, stringTargetHz(pulled.plan, a4Hz)!)}
          note={note}
          lineCents={sound.lineCents}
          pulled
        />
      )}
      {guide?.caution && part?.kind === 'do' && <Caution>{guide.caution}</Caution>}
      {!guide && children}
    </WorkColumn>
  );
}
