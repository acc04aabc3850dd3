import { Component, type ReactNode } from "react";
import { PageTrouble } from "./states";

/** Catches a page that fails while it is drawn, so that the rest of the application stays and nothing kept is lost. */
export class Boundary extends Component<{ children: ReactNode }, { error: Error | null }> {
  override state = { error: null as Error | null };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    if (!this.state.error) return this.props.children;
    return (
      <PageTrouble
        title="This page failed"
        detail="What you logged is kept on this device. Reload the page to continue."
        again={() => window.location.reload()}
      />
    );
  }
}
