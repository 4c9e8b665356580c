import DeleteOutlineIcon from "@mui/icons-material/DeleteOutlined";
import { Box, Button, Stack, Typography } from "@mui/material";
import { DataGrid, GridActionsCellItem, type GridColDef, type GridRowParams } from "@mui/x-data-grid";
import { useMemo } from "react";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { freshId } from "../../shared/ids";
import { Notice } from "../../shared/Notice";
import { fromRow, type Row, toRow } from "./rows";

/** The grid of workloads: every cell is edited in place. */
export function WorkloadsStation() {
  const { design, save, canEdit } = useDesign();
  const { workloads, sites } = design.document;
  const rows = useMemo(() => workloads.map(toRow), [workloads]);
  const columns = useColumns(canEdit);
  const add = () => {
    const id = freshId("workload", workloads);
    const blank = { id, name: "New workload", site: sites[0]?.id ?? "", size: "1 TB", tags: [] };
    void save("workloads", id, blank as unknown as Workload, "added a workload");
  };
  const update = async (after: Row, before: Row): Promise<Row> => {
    const whole = workloads.find((workload) => workload.id === before.id);
    if (!whole || JSON.stringify(after) === JSON.stringify(before)) return before;
    const saved = await save(
      "workloads",
      before.id,
      fromRow(after, whole),
      `${after.name || after.id} changed`,
    );
    return saved ? after : before;
  };
  if (sites.length === 0)
    return <Notice title="A workload needs a site">This design names no site yet.</Notice>;
  return (
    <Stack sx={{ height: "100%", p: 2, gap: 1 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <Typography variant="h2">Workloads</Typography>
        <Typography color="textSecondary">
          {workloads.length} bodies of data. Enter or two clicks edit a cell.
        </Typography>
        <Box sx={{ flex: 1 }} />
        {canEdit && (
          <Button onClick={add} variant="outlined">
            Add a workload
          </Button>
        )}
      </Stack>
      <DataGrid
        aria-label="Workloads"
        rows={rows}
        columns={columns}
        rowHeight={28}
        columnHeaderHeight={34}
        editMode="cell"
        processRowUpdate={update}
        isCellEditable={(cell) => canEdit && cell.colDef.editable === true}
        disableRowSelectionOnClick
        initialState={{ pagination: { paginationModel: { pageSize: 100 } } }}
        pageSizeOptions={[25, 100]}
        hideFooter={rows.length <= 100}
        slots={{ noRowsOverlay: () => <Notice title="No workload yet" /> }}
        sx={GRID_LOOK}
      />
    </Stack>
  );
}

const GRID_LOOK = {
  bgcolor: "background.paper",
  borderColor: "divider",
  "& .MuiDataGrid-columnHeaderTitle": { fontWeight: 600, color: "text.secondary" },
  "& .MuiDataGrid-cell--editing": { boxShadow: "inset 0 0 0 2px var(--mui-palette-primary-main, #5A3E63)" },
  "& .MuiDataGrid-columnSeparator": { opacity: 0 },
};

function useColumns(canEdit: boolean): GridColDef<Row>[] {
  const { design, save } = useDesign();
  const { sites, workloads } = design.document;
  return useMemo(() => {
    const number = (field: keyof Row, headerName: string, width: number): GridColDef<Row> => ({
      field,
      headerName,
      width,
      type: "number",
      editable: true,
      headerAlign: "right",
      align: "right",
      valueFormatter: (value: number | null) => (value === null ? "" : String(value)),
    });
    const columns: GridColDef<Row>[] = [
      { field: "name", headerName: "Name", width: 176, editable: true },
      {
        field: "site",
        headerName: "Site",
        width: 112,
        editable: true,
        type: "singleSelect",
        valueOptions: sites.map((site) => ({ value: site.id, label: site.name || site.id })),
      },
      { field: "size", headerName: "Size", width: 68, editable: true, align: "right", headerAlign: "right" },
      number("count", "Count", 58),
      number("change", "Change %/day", 106),
      {
        field: "pattern",
        headerName: "Changes",
        width: 84,
        editable: true,
        type: "singleSelect",
        valueOptions: ["scattered", "fresh"],
      },
      number("growth", "Growth %/yr", 96),
      number("reduction", "Reduction", 86),
      { field: "tags", headerName: "Tags", width: 96, editable: true },
      number("hot", "Changing part %", 122),
      {
        field: "logs",
        headerName: "Log per day",
        width: 96,
        editable: true,
        align: "right",
        headerAlign: "right",
      },
      { field: "from", headerName: "From", width: 100, editable: true },
      { field: "until", headerName: "Until", width: 100, editable: true },
    ];
    if (!canEdit) return columns;
    const remove = (row: Row) => {
      if (workloads.some((workload) => workload.id === row.id)) {
        void save("workloads", row.id, null, `removed ${row.name || row.id}`);
      }
    };
    return [
      ...columns,
      {
        field: "actions",
        type: "actions",
        headerName: "Remove",
        width: 70,
        getActions: ({ row }: GridRowParams<Row>) => [
          <GridActionsCellItem
            key="remove"
            icon={<DeleteOutlineIcon />}
            label={`Remove ${row.name || row.id}`}
            onClick={() => remove(row)}
          />,
        ],
      },
    ];
  }, [sites, workloads, save, canEdit]);
}
