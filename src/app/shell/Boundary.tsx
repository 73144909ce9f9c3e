import { Component, type ReactNode } from 'react';
import { brief } from '../../core/limits';
import { Button } from '../parts/Button';
import { saveFile } from '../parts/saveFile';
import { rawLog, reasonOf, type World } from '../database/database';

interface Props {
  world: World;
  /** Where one is: on another view the fault is left behind. */
  place: string;
  children: ReactNode;
}

interface State {
  fault: string | undefined;
  place: string;
  trouble: string;
}

/** A view that fails says what happened, and always gives the log out and shows the way back. */
export class Boundary extends Component<Props, State> {
  override state: State = { fault: undefined, place: this.props.place, trouble: '' };

  static getDerivedStateFromError(error: unknown): Partial<State> {
    return { fault: brief(error instanceof Error ? error.message : String(error)) };
  }

  static getDerivedStateFromProps({ place }: Props, state: State): Partial<State> | null {
    return place === state.place ? null : { place, fault: undefined, trouble: '' };
  }

  override render() {
    const { fault, trouble } = this.state;
    if (fault === undefined) return this.props.children;
    const { world } = this.props;
    return (
      <section role="alert" className="mx-auto w-full max-w-2xl p-8">
        <h2 className="text-2xl font-bold">This view has failed</h2>
        <p className="pt-3">
          The log is as it was: nothing in it was changed. Export it, go back to the bench, and the other views go on as
          ever.
        </p>
        <p className="pt-2 text-sm text-ink2">
          For whoever mends it: <q>{fault}</q>
        </p>
        <div className="flex flex-wrap gap-2 pt-4">
          <Button
            strong
            onClick={() =>
              void rawLog(world).then(
                (text) => saveFile(`slow-anchor-${world}-as-stored.json`, text, 'application/json'),
                (error: unknown) => this.setState({ trouble: `The log could not be read (${reasonOf(error)}).` }),
              )
            }
          >
            Export the log as it is stored
          </Button>
          <Button onClick={() => window.location.assign(world === 'demo' ? '/demo/bench' : '/bench')}>
            Back to the bench
          </Button>
        </div>
        <p className="pt-3 text-sm text-rust">{trouble}</p>
      </section>
    );
  }
}
