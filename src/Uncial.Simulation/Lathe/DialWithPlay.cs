namespace Uncial.Simulation;

/// <summary>
/// A dial whose screw has play: moving inwards it takes the slide along at once; moved back, the play has to be gone through first. What
/// was backed off and set again from the wrong side stands deeper than the dial says.
/// </summary>
/// <param name="play">Play of the screw, mm of depth.</param>
public sealed class DialWithPlay(double play)
{
    /// <summary>Where the dial stands, mm of depth from its zero.</summary>
    public double Dial { get; private set; }

    /// <summary>Where the slide truly stands, mm of depth from where it stood at the zero.</summary>
    public double Slide { get; private set; }

    /// <summary>Turns the dial to a place.</summary>
    public void TurnTo(double depth)
    {
        Dial = depth;
        // Inwards the screw pushes; outwards it draws, once the play is gone through.
        Slide = Math.Clamp(Slide, depth, depth + Math.Max(0, play));
    }

    /// <summary>Sets the scale to zero where it stands, holding the knob.</summary>
    public void Zero() => (Dial, Slide) = (0, 0);

    /// <summary>Far enough back and up again from behind: the play is out.</summary>
    public void TurnToFromBehind(double depth)
    {
        TurnTo(depth - 3 * play);
        TurnTo(depth);
    }
}
