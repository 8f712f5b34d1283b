import { Alert, Button, Dialog } from "@mui/material";
import {
  Component,
  createElement,
  lazy,
  Suspense,
  useLayoutEffect,
  useRef,
  useState,
  type ComponentType,
  type ReactNode,
} from "react";
import { sentenceOf } from "../api/client";
import { t } from "../words/words";

type Load<Props> = () => Promise<ComponentType<Props>>;

/** A screen that is fetched when it is first opened; where it cannot be, as after the server has become a newer one, it is fetched again when one asks. */
export function page<Props extends object>(load: Load<Props>) {
  return fetchedOnce(load, false);
}

/** A dialog that is fetched when it is first opened. Until it is there it has the focus, so that what is typed meanwhile lands nowhere else. */
export function later<Props extends object>(load: Load<Props>) {
  return fetchedOnce(load, true);
}

function fetchedOnce<Props extends object>(load: Load<Props>, over: boolean) {
  const fetched = () => lazy(async () => ({ default: await load() }));
  const first = fetched();
  return function Fetched(props: Props) {
    const [screen, setScreen] = useState(() => first);
    return (
      <Broken words={t("page.notFetched")} over={over} onAgain={() => setScreen(() => fetched())}>
        <Suspense fallback={over ? <Coming /> : null}>{createElement(screen as ComponentType<Props>, props)}</Suspense>
      </Broken>
    );
  };
}

/** Holds the focus for a dialog that is on its way, which gives it back to where it was when it is closed. */
function Coming() {
  const here = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const before = document.activeElement;
    here.current?.focus();
    return () => {
      if (before instanceof HTMLElement) before.focus({ preventScroll: true });
    };
  }, []);
  return <div ref={here} tabIndex={-1} role="status" aria-label={t("ledger.loading")} className="visually-hidden" />;
}

interface Props {
  /** What to say when it broke. */
  words: string;
  /** Whether it stands over the page, as a dialog does. */
  over?: boolean;
  /** Where it is; what broke elsewhere is looked at again here. */
  at?: string;
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

  override componentDidUpdate(before: Props) {
    if (before.at !== this.props.at && this.state.failure !== null) this.setState({ failure: null });
  }

  override render() {
    const { failure } = this.state;
    if (failure === null) return this.props.children;
    const said = (
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
    return this.props.over ? <Dialog open>{said}</Dialog> : said;
  }
}
