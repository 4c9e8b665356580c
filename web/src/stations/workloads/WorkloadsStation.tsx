import { Button, Stack, Typography } from "@mui/material";
import { useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { useTakeOut } from "../../design/useTakeOut";
import { countText } from "../../shared/format";
import { freshId } from "../../shared/ids";
import { Notice } from "../../shared/Notice";
import { filterOf, ordersOf, useAddressedGrid } from "./addressed";
import { BulkBar } from "./BulkBar";
import { DetailsDialog } from "./DetailsDialog";
import { FilterBar, GridActs } from "./FilterBar";
import { FirstWorkload } from "./FirstWorkload";
import { GridLook } from "./GridLook";
import { GridTotals } from "./GridTotals";
import { useGoTo, useOrder, useTaken } from "./gridQuestions";
import { ImportDialog } from "./ImportDialog";
import { RefusedPaste, WorkloadFindings } from "./RefusedPaste";
import { ALL, type Filter, filtered, type Order, ordered } from "./rows";
import { SizingDialog } from "./SizingDialog";
import { useGridColumns } from "./useGridColumns";
import { usePaste } from "./usePaste";
import { useSelection } from "./useSelection";
import { WorkloadGrid } from "./WorkloadGrid";

type Dialogs = "import" | "sizing" | "details";

/** The bodies of data: a grid of ten to ten thousand rows, edited in place. */
export function WorkloadsStation() {
  const { design, save } = useDesign();
  const { workloads, sites } = design.document;
  const [search] = useSearchParams();
  const [filter, setFilter] = useState<Filter>(() => filterOf(search));
  const [orders, setOrders] = useState<readonly Order[]>(() => ordersOf(search));
  useAddressedGrid(filter, orders);
  const [opened, setOpened] = useState<Dialogs | null>(null);
  const selection = useSelection();
  const { routesOf, untaken, tags } = useTaken();
  const { takeOut, dialog } = useTakeOut();
  const columns = useGridColumns();
  const ids = useOrder(orders);
  const shown = useMemo(
    () => ordered(filtered(workloads, filter, untaken, routesOf), ids),
    [workloads, filter, untaken, routesOf, ids],
  );
  useGoTo(shown, selection.go);
  const { paste, refused, settle } = usePaste(shown, columns.shown);
  const active = shown[selection.active.row];
  // What is ticked is what is meant; without a tick it is what is under the hand.
  const meant = workloads.find((one) => selection.chosen.has(one.id)) ?? active;
  const chosen = useMemo(
    () => workloads.filter((one) => selection.chosen.has(one.id)),
    [workloads, selection.chosen],
  );
  const add = () => {
    const id = freshId("workload", workloads);
    void save(
      "workloads",
      id,
      { id, name: "New workload", site: sites[0]?.id ?? "", size: "1 TB" } as never,
      "added a workload",
    );
  };
  if (sites.length === 0)
    return (
      <Notice title="A workload needs a site">
        <Button component={Link} to="/targets">
          This design names no site yet: begin with its sites and targets
        </Button>
      </Notice>
    );
  return (
    <Stack sx={{ height: "100%", p: 2, gap: 1.25 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2, flexWrap: "wrap" }}>
        <Typography variant="h2">Workloads</Typography>
        <Typography color="textSecondary" data-testid="shown">
          {shown.length === workloads.length
            ? countText(workloads.length)
            : `${countText(shown.length)} of ${countText(workloads.length)}`}
        </Typography>
        <GridActs
          onAdd={add}
          onImport={() => setOpened("import")}
          onSizing={() => setOpened("sizing")}
          onDetails={() => setOpened("details")}
        />
      </Stack>
      <FilterBar
        filter={filter}
        onFilter={setFilter}
        tags={tags}
        columns={columns}
        untaken={routesOf && untaken.size}
      />
      <GridLook>
        {workloads.length === 0 ? (
          <FirstWorkload />
        ) : shown.length === 0 ? (
          <Notice title="None is like that">
            <Button onClick={() => setFilter(ALL)}>Show all</Button>
          </Notice>
        ) : (
          <WorkloadGrid
            workloads={shown}
            columns={columns}
            routesOf={routesOf}
            orders={orders}
            onOrders={setOrders}
            filter={filter}
            onFilter={setFilter}
            selection={selection}
            onPaste={(text, at) => void paste(text, at)}
          />
        )}
      </GridLook>
      {shown.length > 0 && (
        <GridTotals of={chosen.length > 0 ? chosen : shown} isChosen={chosen.length > 0} />
      )}
      {chosen.length > 0 && (
        <BulkBar
          chosen={chosen}
          onDone={selection.clear}
          onRemove={(one) => takeOut("workloads", one.id, one.name || one.id)}
        />
      )}
      {active && <WorkloadFindings id={active.id} />}
      {dialog}
      {refused && <RefusedPaste refused={refused} onSettle={(leaveOut) => void settle(leaveOut)} />}
      <Opened what={opened} workload={meant} onClose={() => setOpened(null)} />
    </Stack>
  );
}

/** The dialog that is open, if one is. */
function Opened({
  what,
  workload,
  onClose,
}: {
  what: Dialogs | null;
  workload: Workload | undefined;
  onClose: () => void;
}) {
  if (what === "import") return <ImportDialog onClose={onClose} />;
  if (what === null || !workload) return null;
  const Dialog = what === "details" ? DetailsDialog : SizingDialog;
  return <Dialog workload={workload} onClose={onClose} />;
}
