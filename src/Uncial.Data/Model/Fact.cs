namespace Uncial.Data.Model;

/// <summary>Something that was stated and belongs to no part: by whom and when. Facts are added, never changed.</summary>
public abstract class Fact
{
    public long Id { get; set; }
    public DateTimeOffset At { get; set; }
    public int ById { get; set; }
    public Operator? By { get; set; }
}
