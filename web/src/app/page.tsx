import { Alert, Button } from "@mui/material";
import { Component, createElement, lazy, Suspense, useState, type ComponentType, type ReactNode } from "react";
import { sentenceOf } from "../api/client";
import { t } from "../words/words";

/** A screen that is fetched when it is first opened; where it cannot be, as after the server has become a newer one, it is fetched again when one asks. */
export function page<Props extends object>(load: () => Promise<ComponentType<Props>>) {
  const fetched = () => lazy(async () => ({ default: await load() }));
  const first = fetched();
  return function Page(props: Props) {
    const [screen, setScreen] = useState(() => first);
    return (
      <Broken words={t("page.notFetched")} onAgain={() => setScreen(() => fetched())}>
        <Suspense fallback={null}>{createElement(screen as ComponentType<Props>, props)}</Suspense>
      </Broken>
    );
  };
}

interface Props {
  /** What to say when it broke. */
  words: string;
  /** Told when somebody wants to look again. */
  onAgain: () => void;
  children: ReactNode;
}

/** Whatever is in it may break without taking the page with it: it says so, with what went wrong, and offers to look again. */
export class Broken extends Component<Props, { failure: unknown }> {
  override state = { failure: null as unknown };

  static getDerivedStateFromError(failure: unknown) {
    return { failure };
  }

  override render() {
    const { failure } = this.state;
    if (failure === null) return this.props.children;
    return (
      <div className="empty">
        <Alert
          severity="warning"
          action={
            <Button
              onClick={() => {
                this.props.onAgain();
                this.setState({ failure: null });
              }}
            >
              {t("retry")}
            </Button>
          }
        >
          {this.props.words}
          <br />
          <small>{t("page.brokenDetail", { what: sentenceOf(failure) })}</small>
        </Alert>
      </div>
    );
  }
}
