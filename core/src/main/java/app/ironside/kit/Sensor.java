package app.ironside.kit;

import app.ironside.Check;

/**
 * A camera's sensor at the gain in use.
 *
 * @param gainElectronsPerAdu electrons for one step of the converter
 * @param offsetAdu the level of an unexposed pixel
 * @param bitDepth of the converter, 8 to 16
 * @param quantumEfficiency share of photons that become electrons in the visual band
 * @param darkElectronsPerSecond dark current at {@code darkReferenceC}
 * @param darkDoublingC kelvins in which it doubles
 * @param cooled whether it has a cooler
 */
public record Sensor(
        int widthPx,
        int heightPx,
        double pixelUm,
        double gainElectronsPerAdu,
        double offsetAdu,
        int bitDepth,
        double readNoiseElectrons,
        double fullWellElectrons,
        double quantumEfficiency,
        double darkElectronsPerSecond,
        double darkReferenceC,
        double darkDoublingC,
        boolean cooled,
        double readoutSeconds) {
    public Sensor {
        Check.inRange("widthPx", widthPx, 16, 30_000);
        Check.inRange("heightPx", heightPx, 16, 30_000);
        Check.inRange("pixelUm", pixelUm, 0.5, 100);
        Check.positive("gainElectronsPerAdu", gainElectronsPerAdu);
        Check.inRange("bitDepth", bitDepth, 8, 16);
        Check.inRange("readNoiseElectrons", readNoiseElectrons, 0, 100);
        Check.positive("fullWellElectrons", fullWellElectrons);
        Check.inRange("quantumEfficiency", quantumEfficiency, 0.01, 1);
        Check.positive("darkDoublingC", darkDoublingC);
    }

    /** The same sensor at another gain. */
    public Sensor atGain(Equipment.GainPoint gain) {
        return new Sensor(
                widthPx,
                heightPx,
                pixelUm,
                gain.electronsPerAdu(),
                offsetAdu,
                bitDepth,
                gain.readNoiseElectrons(),
                gain.fullWellElectrons(),
                quantumEfficiency,
                darkElectronsPerSecond,
                darkReferenceC,
                darkDoublingC,
                cooled,
                readoutSeconds);
    }

    /** The largest number the converter gives, as written to a file. */
    public int fullScaleAdu() {
        return (1 << bitDepth) - 1;
    }

    /** Dark current at a sensor temperature, electrons per pixel and second. */
    public double darkElectronsPerSecondAt(double temperatureC) {
        return darkElectronsPerSecond * Math.pow(2, (temperatureC - darkReferenceC) / darkDoublingC);
    }
}
