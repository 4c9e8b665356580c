import { Box, ButtonBase, Stack, Typography } from "@mui/material";
import type { CasePicture, LossCase } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText } from "../../shared/format";

/** Sites as boards with their targets: what a loss takes is crossed out, and pressed to be lost or spared. */
export function CasePlaces({ chosen, found }: { chosen: LossCase; found: CasePicture | undefined }) {
  const { design, canEdit, save } = useDesign();
  const lost = chosen.lost ?? { sites: [], targets: [], source: true };
  const put = (part: "sites" | "targets", id: string, name: string) => {
    const named = lost[part] ?? [];
    const isLost = named.includes(id);
    const next = isLost ? named.filter((one) => one !== id) : [...named, id];
    void save(
      "loss_cases",
      chosen.id,
      { ...chosen, lost: { ...lost, [part]: next } },
      `${chosen.name || chosen.id}: ${name} ${isLost ? "spared" : "lost"}`,
    );
  };
  return (
    <Stack
      direction="row"
      sx={{ flexWrap: "wrap", columnGap: 3, rowGap: 1.5 }}
      role="group"
      aria-label="Sites and targets"
    >
      {design.document.sites.map((site) => {
        const siteLost = (lost.sites ?? []).includes(site.id);
        const name = site.name || site.id;
        return (
          <Box key={site.id}>
            <Stack direction="row" sx={{ gap: 1, minHeight: 58, alignItems: "flex-end" }}>
              {design.document.targets
                .filter((one) => one.site === site.id)
                .map((target) => {
                  const targetLost = siteLost || (lost.targets ?? []).includes(target.id);
                  const left = found?.targets.find((one) => one.target === target.id);
                  return (
                    <Place
                      key={target.id}
                      name={target.name || target.id}
                      isLost={targetLost}
                      disabled={!canEdit || siteLost}
                      words={left ? `${countText(left.points)} points, ${bytesText(left.stored_bytes)}` : ""}
                      onPress={() => put("targets", target.id, target.name || target.id)}
                    />
                  );
                })}
            </Stack>
            <Box sx={{ height: 4, bgcolor: siteLost ? "error.main" : "warning.main" }} />
            <ButtonBase
              aria-pressed={siteLost}
              disabled={!canEdit}
              onClick={() => put("sites", site.id, name)}
              sx={{ px: 0.5, textDecoration: siteLost ? "line-through" : "none" }}
            >
              <Typography color={siteLost ? "error" : "textSecondary"}>
                {siteLost ? `${name} is lost` : name}
              </Typography>
            </ButtonBase>
          </Box>
        );
      })}
    </Stack>
  );
}

function Place({
  name,
  isLost,
  disabled,
  words,
  onPress,
}: {
  name: string;
  isLost: boolean;
  disabled: boolean;
  words: string;
  onPress: () => void;
}) {
  return (
    <ButtonBase
      aria-pressed={isLost}
      aria-label={`${name}${isLost ? ", lost" : ""}`}
      disabled={disabled}
      onClick={onPress}
      sx={{
        flexDirection: "column",
        alignItems: "flex-start",
        width: 150,
        height: 54,
        px: 0.75,
        bgcolor: "background.paper",
        border: 1,
        borderBottom: 0,
        borderColor: isLost ? "error.main" : "divider",
        borderStyle: isLost ? "dashed" : "solid",
      }}
    >
      <Typography sx={{ fontWeight: 600, textDecoration: isLost ? "line-through" : "none" }} noWrap>
        {name}
      </Typography>
      <Typography variant="body2" color={isLost ? "error" : "textSecondary"} noWrap>
        {words || (isLost ? "lost" : "")}
      </Typography>
    </ButtonBase>
  );
}
