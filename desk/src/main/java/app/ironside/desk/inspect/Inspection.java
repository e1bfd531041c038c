package app.ironside.desk.inspect;

import app.ironside.BadInputException;
import app.ironside.Workers;
import app.ironside.desk.parts.Words;
import app.ironside.desk.picture.PictureLevels;
import app.ironside.desk.picture.Shown;
import app.ironside.desk.picture.SkyOverlay;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.focus.MaskPattern;
import app.ironside.focus.MaskReader;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.image.Histogram;
import app.ironside.kit.Kit;
import app.ironside.kit.Sampling;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Sexagesimal;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.solve.Wcs;
import app.ironside.star.DetectSettings;
import app.ironside.star.FieldMap;
import app.ironside.star.Moffat;
import app.ironside.star.ShapeSurface;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * All that is found out about one file: stars, field, sky.
 *
 * @param overlay of the sky; empty if it was not recognised
 * @param mask the pattern of a focusing mask, if one was on
 */
public record Inspection(
        Path file,
        Frame frame,
        PictureLevels picture,
        StarField stars,
        Histogram levels,
        FieldMap map,
        ShapeSurface shapes,
        SolveResult solved,
        Optional<SkyOverlay> overlay,
        Optional<MaskPattern> mask) {
    /**
     * Reads, measures and solves a file. Long: not on the interface thread.
     *
     * @throws BadInputException if it is no FITS image
     */
    static Inspection of(Path file, PlateSolver solver, DeepSkyCatalogue objects) {
        Frame frame = FrameFiles.readPicture(file);
        StarField stars = new StarFinder(DetectSettings.DEFAULT, Workers.ALL_CORES).find(frame);
        SolveHints hints = SolveHints.of(frame.header(), frame.width(), frame.height());
        Optional<MaskPattern> mask = MaskReader.read(frame, stars);
        // Pieces of spikes are no stars: there is nothing to recognise.
        SolveResult solved = mask.isPresent()
                ? new NoSolution("A focusing mask is on: its spikes hide the stars.")
                : solver.solve(stars, hints);
        Optional<SkyOverlay> overlay = solved instanceof PlateSolution s
                ? Optional.of(SkyOverlay.of(s.wcs(), frame.width(), frame.height(), objects, s.stars()))
                : Optional.empty();
        String name = file.getFileName().toString();
        return new Inspection(
                file,
                frame,
                PictureLevels.of(new Shown("inspect " + file, name, frame, stars.stars())),
                stars,
                Histogram.of(frame),
                FieldMap.of(stars),
                ShapeSurface.of(stars),
                solved,
                overlay,
                mask);
    }

    /**
     * What a mask tells: how far from focus, and which way.
     *
     * @param kit that the frame is of
     * @param before the file before this one
     */
    ReckoningState maskReckoning(Kit kit, MaskPattern.Lean lean, Optional<MaskPattern> before) {
        MaskPattern m = mask.orElseThrow();
        double zone = Sampling.criticalFocusUm(kit.optics().focalRatio());
        double off = m.defocusUm(kit.optics(), kit.sensor().pixelUm(), lean);
        List<ReckoningState.Row> rows = List.of(
                new ReckoningState.Row(
                        "middle spike",
                        Words.format("%.2f ± %.2f px from the crossing", Math.abs(m.offsetPx()), m.sigmaPx())),
                new ReckoningState.Row(
                        "from focus",
                        Words.format(
                                "%.0f ± %.0f µm",
                                off, m.defocusSigmaUm(kit.optics(), kit.sensor().pixelUm(), lean))),
                new ReckoningState.Row("critical zone", Words.format("± %.0f µm", zone)),
                new ReckoningState.Row(
                        "spikes", Words.format("%.1f° apart, the middle at %.1f°", m.spreadDeg(), m.middleAngleDeg())),
                new ReckoningState.Row(
                        "stars read", Words.format("%d", m.stars().size())),
                new ReckoningState.Row("kit", kit.name()));
        return new ReckoningState(
                off <= zone ? "In focus." : Words.format("%.1f px off.", Math.abs(m.offsetPx())),
                m.sentence(kit.optics(), kit.sensor().pixelUm(), lean, zone, before),
                off > zone,
                rows,
                "Each grid sends its light to where the middle of its part of the aperture aims; out of focus these places part, and the middle"
                        + " spike leaves the crossing by z / f × 4R/3π × (2 ± tan α).",
                List.of());
    }

    /** Verdict, numbers and working. */
    ReckoningState reckoning() {
        List<ReckoningState.Row> rows = new ArrayList<>();
        String verdict;
        String sentence;
        boolean alert = false;
        String working = "";
        if (solved instanceof PlateSolution s) {
            verdict = "The sky is recognised.";
            sentence = s.wrongHints().isEmpty()
                    ? Words.format("%d stars matched, %.2f″ off on average.", s.matchedStars(), s.rmsArcsec())
                    : String.join(" ", s.wrongHints());
            alert = !s.wrongHints().isEmpty();
            rows.add(new ReckoningState.Row(
                    "middle", Sexagesimal.text(s.centre().raDeg(), s.centre().decDeg())));
            rows.add(new ReckoningState.Row("scale", Words.format("%.4f″ a pixel", s.scaleArcsecPerPixel())));
            rows.add(new ReckoningState.Row(
                    "field",
                    Words.format(
                            "%.2f° × %.2f°",
                            frame.width() * s.scaleArcsecPerPixel() / 3600,
                            frame.height() * s.scaleArcsecPerPixel() / 3600)));
            rows.add(new ReckoningState.Row(
                    "camera angle",
                    Words.format("%.2f°%s", s.rotationDeg(), s.wcs().mirrored() ? ", mirrored" : "")));
            rows.add(new ReckoningState.Row(
                    "distortion at the corner",
                    Words.format("%.2f px", s.wcs().largestDistortionPx(frame.width(), frame.height()))));
            working = Words.format(
                    "Patterns of four stars are looked up in the catalogue; the odds that these matches are chance are 1 in 10 to the "
                            + "%.0f. Distortion is fitted where the stars prove it (F test), as SIP polynomials (Shupe et al. 2005).",
                    -s.log10FalseOdds());
        } else {
            verdict = "Not recognised.";
            sentence = ((NoSolution) solved).reason();
            alert = true;
        }
        if (FrameFiles.isJpeg(file.getFileName().toString())) {
            rows.add(new ReckoningState.Row("JPEG", "places and shapes hold, brightness does not"));
        }
        rows.add(new ReckoningState.Row(
                "stars", Words.format("%,d", stars.stars().size())));
        stars.medianHalfFluxRadiusPx()
                .ifPresent(v -> rows.add(new ReckoningState.Row("half-flux radius", Words.format("%.2f px", v))));
        stars.medianProfileFwhmPx()
                .ifPresent(v -> rows.add(new ReckoningState.Row("full width, fitted", Words.format("%.2f px", v))));
        stars.medianEccentricity()
                .ifPresent(v -> rows.add(new ReckoningState.Row("eccentricity", Words.format("%.2f", v))));
        rows.add(new ReckoningState.Row(
                "background", Words.format("%.0f ± %.1f ADU", stars.backgroundAdu(), stars.noiseAdu())));
        return new ReckoningState(verdict, sentence, alert, rows, working, List.of());
    }

    /** Julian year of the frame; 2000 where its header does not tell. */
    double year() {
        return SolveHints.of(frame.header(), frame.width(), frame.height()).epochYear();
    }

    /** What the field map says, a sentence a finding. */
    String fieldWords() {
        return map.findings().isEmpty()
                ? "Stars are alike in all corners and in the middle."
                : String.join(
                        "\n",
                        map.findings().stream().map(FieldMap.Finding::sentence).toList());
    }

    /** The star list as CSV, with places on the sky where the frame was recognised. */
    public String starsCsv() {
        StringBuilder csv = new StringBuilder(
                "x,y,flux,fluxError,peak,hfr,fwhm,moffatFwhm,moffatBeta,eccentricity,angleDeg,snr,saturated,raDeg,decDeg\n");
        Optional<Wcs> wcs = solved instanceof PlateSolution s ? Optional.of(s.wcs()) : Optional.empty();
        for (Star s : stars.stars()) {
            csv.append(String.format(
                    Locale.ROOT,
                    "%.3f,%.3f,%.1f,%.1f,%.1f,%.3f,%.3f,%s,%s,%.3f,%.1f,%.1f,%b,%s%n",
                    s.x(),
                    s.y(),
                    s.fluxAdu(),
                    s.fluxErrorAdu(),
                    s.peakAdu(),
                    s.halfFluxRadiusPx(),
                    s.fwhmPx(),
                    s.profile()
                            .map(p -> String.format(Locale.ROOT, "%.3f", p.fwhmPx()))
                            .orElse(""),
                    s.profile()
                            .map(Moffat::beta)
                            .map(b -> String.format(Locale.ROOT, "%.2f", b))
                            .orElse(""),
                    s.eccentricity(),
                    s.angleDeg(),
                    s.snr(),
                    s.saturated(),
                    wcs.map(w -> w.toSky(s.x(), s.y()))
                            .map(p -> String.format(Locale.ROOT, "%.6f,%.6f", p.raDeg(), p.decDeg()))
                            .orElse(",")));
        }
        return csv.toString();
    }

    /** The field map as CSV. */
    public String mapCsv() {
        StringBuilder csv = new StringBuilder("column,row,stars,hfr,elongation,angleDeg\n");
        for (FieldMap.Zone z : map.zones()) {
            csv.append(String.format(
                    Locale.ROOT,
                    "%d,%d,%d,%.3f,%.3f,%.1f%n",
                    z.column(),
                    z.row(),
                    z.stars(),
                    z.halfFluxRadiusPx(),
                    z.elongation(),
                    z.angleDeg()));
        }
        return csv.toString();
    }

    /** Writes a copy of the frame with the WCS in its header; the file itself is never changed. */
    public void writeSolved(Path to) {
        Destination.file(to, "the solved copy", List.of(file));
        PlateSolution s = (PlateSolution) solved;
        FitsFiles.write(
                to,
                frame.withHeader(frame.header()
                        .without(Wcs::isWcsKeyword)
                        .withAll(s.wcs().toHeader().values())),
                FitsFiles.Encoding.FLOAT_32);
    }

    /** Writes a table beside the frame, never over it. */
    void write(Path to, String text) {
        Destination.file(to, "the table", List.of(file));
        AtomicFile.write(to, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
    }
}
