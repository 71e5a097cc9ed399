import { Component, type ReactNode } from "react";

let drawsSolids: boolean | null = null;

/** Whether this browser draws in three dimensions at all. */
function canDraw(): boolean {
  if (drawsSolids === null) {
    try {
      drawsSolids = document.createElement("canvas").getContext("webgl2") !== null;
    } catch {
      drawsSolids = false;
    }
  }
  return drawsSolids;
}

function Why(p: { children: ReactNode }) {
  return (
    <p className="p-6 text-center text-sm text-soft" role="note" data-testid="no-solid">
      {p.children} Plan, section, measures and files work without it.
    </p>
  );
}

/** What draws the solid; where the browser cannot, the reason stands in its place, and the page goes on. */
export class SolidGuard extends Component<{ children: ReactNode }, { why: string | null }> {
  override state: { why: string | null } = { why: null };

  static getDerivedStateFromError(e: unknown) {
    return { why: e instanceof Error ? e.message : String(e) };
  }

  override render() {
    if (!canDraw()) {
      return (
        <Why>
          This browser does not draw in three dimensions (WebGL 2 is off or missing), so the solid is not
          shown.
        </Why>
      );
    }
    if (this.state.why !== null) {
      return (
        <>
          <Why>The solid cannot be shown: {this.state.why}.</Why>
          <p className="text-center">
            <button
              type="button"
              className="rounded-tile border border-edge px-3 py-1 text-sm font-semibold"
              onClick={() => this.setState({ why: null })}
            >
              Try again
            </button>
          </p>
        </>
      );
    }
    return this.props.children;
  }
}
