import { Table, TableBody, TableCell, TableHead, TableRow, Typography } from "@mui/material";
import type { CostOut, TargetCost } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText, moneyText, writtenDate } from "../../shared/format";
import { monthText } from "../../shared/style";

/** One month in figures, target by category; cartridges of tape targets in words. */
export function MonthTable({ cost }: { cost: CostOut }) {
  const { design, on } = useDesign();
  const categories = cost.by_category.map((one) => one.category);
  const name = (id: string) => design.document.targets.find((one) => one.id === id)?.name || id;
  const amount = (one: TargetCost, category: string) =>
    one.by_category.find((part) => part.category === category)?.per_month[cost.at];
  return (
    <>
      <Table
        size="small"
        stickyHeader
        aria-label={`Cost of ${monthText(`${cost.months[cost.at]}-01`)}`}
        sx={{ "& td, & th": { py: "2px" } }}
      >
        <TableHead>
          <TableRow>
            <TableCell>{monthText(`${cost.months[cost.at]}-01`)}</TableCell>
            {categories.map((category) => (
              <TableCell key={category} align="right">
                {category}
              </TableCell>
            ))}
            <TableCell align="right">together</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {cost.targets.map((one) => (
            <TableRow key={one.target} data-target={one.target}>
              <TableCell component="th" scope="row">
                {name(one.target)}
              </TableCell>
              {categories.map((category) => {
                const found = amount(one, category);
                return (
                  <TableCell key={category} align="right">
                    {found === undefined ? "" : moneyText(found, cost.currency)}
                  </TableCell>
                );
              })}
              <TableCell align="right" data-figure="together">
                {moneyText(one.per_month[cost.at] ?? 0, cost.currency)}
              </TableCell>
            </TableRow>
          ))}
          {cost.beside.map((one) => (
            <TableRow key={one.id} data-beside={one.id}>
              <TableCell component="th" scope="row">
                {one.name}
              </TableCell>
              {categories.map((category) => (
                <TableCell key={category} />
              ))}
              <TableCell align="right" data-figure="together">
                {moneyText(one.per_month[cost.at] ?? 0, cost.currency)}
              </TableCell>
            </TableRow>
          ))}
          <TableRow data-target="together" sx={{ "& th, & td": { fontWeight: 600 } }}>
            <TableCell component="th" scope="row">
              together
            </TableCell>
            {cost.by_category.map((one) => (
              <TableCell key={one.category} align="right" data-figure={one.category}>
                {moneyText(one.per_month[cost.at] ?? 0, cost.currency)}
              </TableCell>
            ))}
            <TableCell align="right" data-figure="together">
              {moneyText(cost.per_month[cost.at] ?? 0, cost.currency)}
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
      {cost.targets.map(
        ({ target, tapes }) =>
          tapes && (
            <Typography key={target} sx={{ mt: 1, px: 2 }} data-testid="cartridges">
              {name(target)} on {writtenDate(on)}: {countText(tapes.in_use)} cartridges in use,{" "}
              {countText(tapes.free)} free, {countText(tapes.bought)} bought so far and{" "}
              {countText(tapes.to_buy)} to buy by the end
              {tapes.owned_at_start > 0 ? `, ${countText(tapes.owned_at_start)} owned at the start` : ""};{" "}
              {countText(tapes.away)} at the store that they return from
              {tapes.lacking_slots
                ? `, ${countText(tapes.lacking_slots)} more than the library has slots`
                : ""}
              ; {bytesText(tapes.stranded_bytes)} stranded under points that are gone.
            </Typography>
          ),
      )}
    </>
  );
}
