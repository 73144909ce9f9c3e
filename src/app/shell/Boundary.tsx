import { Component, type ReactNode } from 'react';
import { writeLogFile } from '../../core/exchange';
import { brief } from '../../core/limits';
import type { LogRecord } from '../../core/log';
import { Button } from '../parts/Button';
import { saveFile } from '../parts/saveFile';
import { realClock } from '../world/clock';
import { rawLog, reasonOf, type StoreName } from '../store/database';

interface Props {
  world: StoreName;
  /** Where one is: on another view the fault is left behind. */
  place: string;
  /** What the page itself knows of the log, where it is open: also what the store cannot give any more. */
  known?: () => readonly LogRecord[];
  children: ReactNode;
}

interface State {
  fault: string | undefined;
  /** A file of the app could not be fetched: a newer build is served, or this site's data was cleared. */
  isGone: boolean;
  place: string;
  trouble: string;
}

/** How browsers say that a module could not be fetched. */
const FETCH_FAILED = /dynamically imported module|module script failed|error loading dynamically/i;

/** A view that fails says what happened, and always gives the log out and shows the way back. */
export class Boundary extends Component<Props, State> {
  override state: State = { fault: undefined, isGone: false, place: this.props.place, trouble: '' };

  static getDerivedStateFromError(error: unknown): Partial<State> {
    const fault = brief(error instanceof Error ? error.message : String(error));
    return { fault, isGone: FETCH_FAILED.test(fault) };
  }

  static getDerivedStateFromProps({ place }: Props, state: State): Partial<State> | null {
    return place === state.place ? null : { place, fault: undefined, trouble: '' };
  }

  /** What the store holds; where it may have been cleared, what the page knows. */
  private async exportLog() {
    const { world, known } = this.props;
    try {
      const text = this.state.isGone && known ? writeLogFile(known(), realClock.nowMs()) : await rawLog(world);
      saveFile(`slow-anchor-${world}-as-stored.json`, text, 'application/json');
    } catch (error) {
      this.setState({ trouble: `The log could not be read (${reasonOf(error)}).` });
    }
  }

  override render() {
    const { fault, trouble, isGone } = this.state;
    if (fault === undefined) return this.props.children;
    const { world } = this.props;
    if (isGone)
      return (
        <section role="alert" className="mx-auto w-full max-w-2xl p-8">
          <h2 className="text-2xl font-bold">Reload to go on: nothing is lost</h2>
          <p className="pt-3">
            This part of the app cannot be loaded: there is a newer version, or this site’s data was cleared. Your
            readings are safe.
          </p>
          <div className="flex flex-wrap gap-2 pt-4">
            <Button strong onClick={() => window.location.reload()}>
              Reload
            </Button>
            <Button onClick={() => void this.exportLog()}>Export the log first</Button>
          </div>
          <p className="pt-3 text-sm text-rust">{trouble}</p>
        </section>
      );
    return (
      <section role="alert" className="mx-auto w-full max-w-2xl p-8">
        <h2 className="text-2xl font-bold">This view has failed</h2>
        <p className="pt-3">Your data is unchanged. Export it, go back, and the other views go on as ever.</p>
        <p className="pt-2 text-sm text-ink2">
          For whoever repairs it: <q>{fault}</q>
        </p>
        <div className="flex flex-wrap gap-2 pt-4">
          <Button strong onClick={() => void this.exportLog()}>
            Export everything as it is stored
          </Button>
          <Button onClick={() => window.location.assign(world === 'demo' ? '/demo/bench' : '/bench')}>
            Back to the instruments
          </Button>
        </div>
        <p className="pt-3 text-sm text-rust">{trouble}</p>
      </section>
    );
  }
}
