import Button from '@mui/material/Button';
import { Component, type ErrorInfo, type ReactNode } from 'react';
import { StateNote } from '../status/StateNote';
import own from '../status/statenote.module.css';

interface BoundaryProps {
  /** Name of the content, for people. */
  what: string;
  children: ReactNode;
}

/** Keeps the trouble of what is inside to itself: what is around goes on, and it can be shown again. */
export class Boundary extends Component<BoundaryProps, { error: Error | null }> {
  override state: { error: Error | null } = { error: null };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  /** Where it was, for whoever mends it. */
  override componentDidCatch(error: Error, { componentStack }: ErrorInfo) {
    console.error(`${this.props.what} cannot be shown: ${error.message}`, componentStack);
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    return (
      <section className={own.broken}>
        <StateNote kind="error" again={() => this.setState({ error: null })}>
          {this.props.what} cannot be shown: {error.message}. Nothing that was saved is lost, and captures go
          on.
        </StateNote>
        <Button onClick={() => window.location.reload()}>Reload page</Button>
      </section>
    );
  }
}
